import { defineStore } from 'pinia'
import type { Ms, VisitId } from '@core/model'
import { pausesOf } from '@core/pace'
import { seamsOf } from '@core/programme'
import { stepTurns } from '@core/scene'
import type { ProgrammeEdit } from '@core/programme'
import type { HistoryView, ProgrammeAnswer, UseRequest } from '@contracts'
import { thisBrowser } from '~/capture'
import { api, sentenceOf } from '~/client'
import { useTalk } from './talk'

/** Changes of the programme in Review: each is kept on the server at once, and can be taken back, today or days later. */
export const useProgrammeEdits = defineStore('programme-edits', () => {
  const talk = useTalk()
  const history = shallowRef<HistoryView | null>(null)
  const busy = ref(false)
  const trouble = ref<string | null>(null)
  /** What was chosen on the waveforms, in programme time. */
  const range = shallowRef<{ readonly from: Ms; readonly to: Ms } | null>(null)

  /** Visits that are picked to be changed together. */
  const picked = ref<ReadonlySet<VisitId>>(new Set())
  /** Picked visits that are still there, in order. */
  const chosen = computed(() => talk.visits.filter((visit) => picked.value.has(visit.id)))
  let anchor: VisitId | null = null

  /** Picks a visit or lets it go; with `range` all from the last one picked on. */
  function pick(id: VisitId, range: boolean): void {
    const order = talk.visits.map((visit) => visit.id)
    const next = new Set(picked.value)
    if (range && anchor !== null && order.includes(anchor)) {
      const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b)
      for (const one of order.slice(from, (to ?? 0) + 1)) next.add(one)
    } else if (next.has(id)) next.delete(id)
    else next.add(id)
    anchor = id
    picked.value = next
  }
  const pickNone = (): void => {
    picked.value = new Set()
  }
  const pickAll = (): void => {
    picked.value = new Set(talk.visits.map((visit) => visit.id))
  }

  /** Where the talk pauses, found once for all rows. */
  const pauses = computed(() => (talk.index === null ? [] : pausesOf(talk.index.film, talk.film?.peaks ?? {})))
  /** When steps of slides come, likewise. */
  const steps = computed(() => (talk.index === null ? [] : stepTurns(talk.index)))
  const seams = computed(() => seamsOf(talk.programme))

  async function loadHistory(): Promise<void> {
    const id = talk.talk?.id
    if (id !== undefined) history.value = await api.get<HistoryView>(`/talks/${id}/programme/history?browser=${thisBrowser().browser}`)
  }

  let last: Promise<unknown> = Promise.resolve()
  let waiting = 0

  async function send(id: string, path: string, body: object): Promise<boolean> {
    trouble.value = null
    try {
      const answer = await api.post<ProgrammeAnswer>(`/talks/${id}/programme${path}`, body)
      // Another talk may have been opened meanwhile.
      if (talk.talk?.id === id) history.value = answer.history
      await talk.adopt(id, answer.programme)
      return true
    } catch (error) {
      trouble.value = sentenceOf(error)
      // What was refused may have been changed elsewhere.
      await talk.refreshFilm().catch(() => undefined)
      return false
    }
  }

  /**
   * One change after the other: a key that is pressed meanwhile waits its turn. What the server refuses is said, and nothing has
   * changed.
   */
  async function inTurn(work: () => Promise<boolean>): Promise<boolean> {
    waiting += 1
    busy.value = true
    const mine = last.then(work)
    last = mine
    const done = await mine
    waiting -= 1
    busy.value = waiting > 0
    return done
  }

  async function change(path: string, body: object): Promise<boolean> {
    const id = talk.talk?.id
    return id !== undefined && (await inTurn(() => send(id, path, body)))
  }

  /** Does something for the talk that is no edit; why it did not go is said where edits say it. */
  async function attempt(work: () => Promise<unknown>): Promise<void> {
    trouble.value = null
    try {
      await work()
    } catch (error) {
      trouble.value = sentenceOf(error)
    }
  }

  const author = (): string => thisBrowser().browser
  async function edit(what: ProgrammeEdit): Promise<void> {
    if (await change('', { revision: talk.programme.revision, author: author(), edit: what })) range.value = null
  }
  /**
   * An edit that is made of the programme as it is when its turn comes: fields of one thing can be changed faster than they are kept.
   * @param make gives null where there is nothing to be changed any more
   */
  async function editThen(make: () => ProgrammeEdit | null): Promise<void> {
    const id = talk.talk?.id
    if (id === undefined) return
    await inTurn(async () => {
      const what = make()
      return what !== null && (await send(id, '', { revision: talk.programme.revision, author: author(), edit: what }))
    })
  }
  /** Takes another recording of a visit's slide in its place. */
  const use = (what: UseRequest): Promise<boolean> => change('/use', { revision: talk.programme.revision, author: author(), ...what })
  const back = (role: 'undo' | 'redo'): Promise<boolean> => change('/back', { author: author(), role })
  const returnTo = (revision: number): Promise<boolean> => change('/return', { author: author(), revision })
  async function name(revision: number, called: string): Promise<boolean> {
    const id = talk.talk?.id
    if (id === undefined) return false
    return await inTurn(async () => {
      await attempt(async () => {
        await api.post(`/talks/${id}/programme/names`, { revision, name: called })
        await loadHistory()
      })
      return trouble.value === null
    })
  }

  // Each by itself: a talk that was asked for again, and is as it was, lets nothing go that was chosen.
  watch(
    [() => talk.talk?.id, () => talk.programme.revision],
    () => {
      range.value = null
      // A change that was made here answered its history too.
      if (history.value?.changes[0]?.revision !== talk.programme.revision) void loadHistory().catch(() => undefined)
    },
    { immediate: true },
  )

  return {
    history,
    busy,
    trouble,
    range,
    seams,
    pauses,
    steps,
    picked,
    chosen,
    pick,
    pickNone,
    pickAll,
    attempt,
    edit,
    editThen,
    use,
    back,
    returnTo,
    name,
  }
})
