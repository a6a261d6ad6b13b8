import { defineStore } from 'pinia'
import { dequal } from 'dequal'
import type { Ms, NewBackdrop, StretchId } from '@core/model'
import type { BackdropFilmView, BackdropStillView, BackdropsView } from '@contracts'
import { api, backdropQuery } from '~/client'
import { useProgrammeEdits } from './programme-edits'
import { useTalk } from './talk'

/** How long making a film takes as a share of its length, where it was never seen. Measured on two processors. */
const USUAL_PACE = 0.9

/** The films that a talk's faces are seen in where their backdrop is another, and how far they are. */
export const useBackdrops = defineStore('backdrops', () => {
  const talk = useTalk()
  const edits = useProgrammeEdits()
  const films = shallowRef<readonly BackdropFilmView[]>([])
  const pace = ref(USUAL_PACE)
  /** What cannot be shown here; null: nothing. */
  const trouble = ref<string | null>(null)

  async function load(again = false): Promise<void> {
    const id = talk.talk?.id
    if (id === undefined) return
    const told = await api.post<BackdropsView>(`/talks/${id}/backdrops?again=${String(again)}`)
    films.value = told.films
    pace.value = told.pace ?? USUAL_PACE
  }
  const said = computed(() => talk.programme.backdrops)
  watch(
    () => [talk.talk?.id, said.value, talk.backdropsVersion] as const,
    () => {
      if (said.value === undefined) films.value = []
      else void load().catch(reportError)
    },
    { immediate: true },
  )

  /** Whether a recording's film is there. */
  const isThere = (stretch: StretchId, backdrop: NewBackdrop): boolean =>
    films.value.some((film) => film.state === 'done' && film.stretch === stretch && dequal(film.backdrop, backdrop))

  /** Those that are still made, and how long that takes; null: not known. */
  const underWay = computed(() => {
    const left = films.value.filter(({ state }) => state === 'queued' || state === 'making')
    const share = films.value.length === 0 ? 1 : films.value.reduce((sum, film) => sum + film.share, 0) / films.value.length
    const times = left.map(({ timeLeft }) => timeLeft)
    const known = times.every((time) => time !== null)
    return { count: left.length, share, timeLeft: known ? times.reduce((sum: Ms, time) => sum + (time ?? 0), 0) : null }
  })
  const failed = computed(() => films.value.find(({ state }) => state === 'failed') ?? null)
  const retry = (): Promise<void> => edits.attempt(() => load(true))

  /** What a recording would look like. @param at ms into it @throws Refusal when that cannot be shown */
  const tryOut = (stretch: StretchId, at: Ms, backdrop: NewBackdrop): Promise<BackdropStillView> =>
    api.get(`/stretches/${stretch}/backdrop-still?at=${String(Math.round(at))}&${backdropQuery(backdrop)}`)

  return { films, pace, trouble, isThere, underWay, failed, retry, tryOut }
})
