import { defineStore } from 'pinia'
import { group } from 'd3'
import { readCaptions } from '@core/formats'
import { captionsOf, corrected, correctionsFrom, filmWords, neverSaid, slipsOf, speakingRates } from '@core/words'
import type { FilmWord } from '@core/words'
import { USUAL_CAPTIONS } from '@core/model'
import type { VisitId } from '@core/model'
import { MOST_CORRECTIONS } from '@contracts'
import type { CorrectionRequest, WordsView } from '@contracts'
import { api, sentenceOf } from '~/client'
import { useTalk } from './talk'

/** A word below this is doubtful, of 1. */
export const DOUBTFUL = 0.5

/** Longest caption file that is read, in bytes. */
const MOST_CAPTION_BYTES = 4_000_000

const NONE: readonly FilmWord[] = []

/** What is said in the open talk: as it was heard, laid on what is written, and as it was corrected. */
export const useSaid = defineStore('said', () => {
  const talk = useTalk()
  const view = shallowRef<WordsView | null>(null)
  const trouble = ref<string | null>(null)
  const busy = ref(false)

  const words = computed<readonly FilmWord[]>(() => {
    if (talk.index === null || view.value === null) return NONE
    return filmWords(talk.index, new Map(view.value.stretches.map((said) => [said.stretch, corrected(said, said.corrections)])))
  })
  const captions = computed(() => captionsOf(words.value, talk.talk?.language ?? 'en'))
  /** Words a minute over the talk. */
  const rates = computed(() => speakingRates(words.value, talk.index?.length ?? 0))
  /** What is written and was never said. */
  const unsaid = computed(() => neverSaid(words.value, [...(talk.index?.film.slides.values() ?? [])], talk.talk?.language ?? 'en'))
  const slips = computed(() => {
    const { index, film } = talk
    if (index === null) return []
    return slipsOf({
      words: words.value,
      notesOf: (slide) => index.film.slides.get(slide)?.notes ?? '',
      peaksOf: (stretch) => film?.peaks[stretch] ?? [],
    })
  })
  const captionStyle = computed(() => talk.programme.captions ?? USUAL_CAPTIONS)
  /** Whether they stand on the picture in Review. */
  const captioned = ref(false)
  const byVisit = computed(() => group(words.value, ({ visit }) => visit))
  const ofVisit = (visit: VisitId): readonly FilmWord[] => byVisit.value.get(visit) ?? NONE
  const doubtful = computed(() => words.value.filter(({ sure, source }) => source === 'heard' && sure < DOUBTFUL))

  async function attempt(work: (id: string) => Promise<WordsView>): Promise<boolean> {
    const id = talk.talk?.id
    if (id === undefined) return false
    busy.value = true
    trouble.value = null
    try {
      const answer = await work(id)
      if (talk.talk?.id === id) view.value = answer
      return true
    } catch (error) {
      trouble.value = sentenceOf(error)
      return false
    } finally {
      busy.value = false
    }
  }

  /** Says what is said in place of some words that follow each other in one recording. */
  const correct = (corrections: readonly CorrectionRequest[], brought = false): Promise<boolean> =>
    attempt((id) => api.post<WordsView>(`/talks/${id}/words/corrections`, { corrections, brought }))
  /** Takes a caption file for what is said. @returns a sentence on what came of it; null: it did not go through */
  async function bringIn(file: File): Promise<string | null> {
    const captions = file.size > MOST_CAPTION_BYTES ? [] : readCaptions(await file.text())
    if (captions.length === 0 || talk.index === null) return `“${file.name}” holds no captions. Nothing was changed.`
    const corrections = correctionsFrom(talk.index, words.value, captions)
    if (corrections.length === 0) return `“${file.name}” says what is said here already.`
    if (corrections.length > MOST_CORRECTIONS) return `“${file.name}” says too much. Nothing was changed.`
    if (!(await correct(corrections, true))) return null
    return `What is said is as in “${file.name}” now: ${String(corrections.length)} places were put right.`
  }
  const brought = computed(
    () => view.value?.stretches.reduce((sum, one) => sum + one.corrections.filter((it) => it.brought).length, 0) ?? 0,
  )
  const takeBroughtBack = (): Promise<boolean> => attempt((id) => api.delete<WordsView>(`/talks/${id}/words/brought`))
  const takeBack = (correction: string): Promise<boolean> =>
    attempt((id) => api.delete<WordsView>(`/talks/${id}/words/corrections/${correction}`))
  const listen = (): Promise<boolean> => attempt((id) => api.post<WordsView>(`/talks/${id}/words/listen`))
  const setTerms = (terms: readonly string[]): Promise<boolean> =>
    attempt((id) => api.put<WordsView>(`/talks/${id}/words/terms`, { terms }))

  /** A word that was put right and is said elsewhere too. */
  const everywhere = shallowRef<{ readonly from: string; readonly to: string; readonly places: number } | null>(null)
  const placesOf = (text: string): readonly FilmWord[] => words.value.filter((word) => word.source !== 'typed' && word.text === text)
  function noteCorrected(from: string, to: string): void {
    const places = placesOf(from).length
    everywhere.value = places === 0 || to === '' || from === to ? null : { from, to, places }
  }
  async function correctEverywhere(): Promise<void> {
    if (everywhere.value === null) return
    const { from: wrong, to } = everywhere.value
    const corrections = placesOf(wrong).map(({ recorded: { stretch, from, until } }) => ({
      stretch,
      from,
      until: Math.max(from + 1, until),
      text: to,
    }))
    if (corrections.length === 0 || (await correct(corrections))) everywhere.value = null
  }

  watch(
    [() => talk.talk?.id, () => talk.wordsVersion, () => talk.programme.revision],
    async ([id], previous) => {
      if (id !== previous[0]) view.value = null
      if (id === undefined) return
      // What cannot be had now comes with the next change.
      const found = await api.get<WordsView>(`/talks/${id}/words`).catch(() => null)
      if (found !== null && talk.talk?.id === id) view.value = found
    },
    { immediate: true },
  )
  return {
    view,
    words,
    captions,
    captionStyle,
    slips,
    rates,
    unsaid,
    captioned,
    doubtful,
    trouble,
    busy,
    everywhere,
    ofVisit,
    correct,
    correctEverywhere,
    bringIn,
    brought,
    takeBroughtBack,
    noteCorrected,
    takeBack,
    listen,
    setTerms,
  }
})
