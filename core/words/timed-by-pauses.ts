import type { Ms, Said, Word } from '@core/model'
import { silencesOf } from '@core/voice'
import type { ShownText, WrittenText } from './align'
import { lettersOf, shares } from './shares'
import { sentenceTexts } from './written-text'

/** A pause at which a sentence may end is at least this long, in ms. */
const PAUSE: Ms = 200
/** What a sentence that ends where nobody pauses costs, and one that takes twice or half the time that its letters take. */
const NO_PAUSE_COST = 0.8
const TEMPO_COST = 4
/** Where no pause is, a sentence may end at so many places, spread over the time. */
const PLACES = 120
/** How sure words are whose times nobody heard. */
const SURE = 0.3

/** A place at which a sentence may end: in ms of speech, and whether somebody pauses there. */
interface Place {
  readonly at: Ms
  readonly pause: boolean
}

/** A part of a voice without its silences: places of it in the time of speech alone, and back. */
class Speech {
  readonly #parts: readonly { readonly from: Ms; readonly to: Ms }[]

  constructor(peaks: readonly number[], from: Ms, until: Ms) {
    const parts: { from: Ms; to: Ms }[] = []
    let at = from
    for (const silence of silencesOf(peaks, PAUSE)) {
      if (silence.to <= from || silence.from >= until) continue
      if (silence.from > at) parts.push({ from: at, to: silence.from })
      at = Math.max(at, silence.to)
    }
    if (until > at) parts.push({ from: at, to: until })
    this.#parts = parts
  }

  get length(): Ms {
    return this.#parts.reduce((sum, { from, to }) => sum + to - from, 0)
  }

  places(): readonly Place[] {
    const pauses: Place[] = []
    let at = 0
    for (const { from, to } of this.#parts) {
      at += to - from
      pauses.push({ at, pause: true })
    }
    const spread = Array.from({ length: PLACES - 1 }, (_, n) => ({ at: (this.length * (n + 1)) / PLACES, pause: false }))
    return [...pauses, ...spread].sort((one, other) => one.at - other.at)
  }

  /** A place in the stretch's time. @param ends whether something ends there: at a pause that is before it */
  inStretch(place: Ms, ends: boolean): Ms {
    let left = place
    for (const { from, to } of this.#parts) {
      if (left < to - from || (ends && left <= to - from)) return from + left
      left -= to - from
    }
    return this.#parts.at(-1)?.to ?? 0
  }
}

/** Where sentences end, by the least that tempo and missing pauses cost together (dynamic programming over sentences and places). */
function endsOf(lengths: readonly number[], places: readonly Place[], whole: Ms): readonly Ms[] {
  const letters = sum(lengths)
  const wanted = lengths.map((length) => (length / Math.max(1, letters)) * whole)
  const starts = [0, ...places.map(({ at }) => at)]
  let costs = starts.map((at) => (at === 0 ? 0 : Infinity))
  const cameFrom: number[][] = []
  for (const want of wanted) {
    const from = new Array<number>(starts.length).fill(0)
    const next = starts.map((end, n) => {
      let least = Infinity
      for (let before = 0; before < n; before += 1) {
        const took = end - (starts[before] ?? 0)
        const tempo = Math.log2(Math.max(1, took) / Math.max(1, want))
        const cost = (costs[before] ?? Infinity) + TEMPO_COST * tempo * tempo
        if (cost < least) [least, from[n]] = [cost, before]
      }
      return least + (places[n - 1]?.pause === true ? 0 : NO_PAUSE_COST)
    })
    costs = next
    cameFrom.push(from)
  }
  const ends: Ms[] = []
  let at = starts.length - 1
  for (let n = wanted.length - 1; n >= 0; n -= 1) {
    ends.unshift(starts[at] ?? 0)
    at = cameFrom[n]?.[at] ?? 0
  }
  return ends
}

const sum = (values: readonly number[]): number => values.reduce((all, value) => all + value, 0)

/**
 * Lays what is written on a voice that nobody can understand: sentences take the time that their letters take, and end where somebody
 * pauses.
 * @param peaks of the voice
 * @param shown when which text was on screen, in order; a text that comes again is taken to be said the first time
 */
export function timedByPauses(peaks: readonly number[], texts: readonly WrittenText[], shown: readonly ShownText[]): Said {
  const told = new Set<number>()
  const words = shown.flatMap(({ from, until, text }): readonly Word[] => {
    const written = texts[text]
    if (written === undefined || told.has(text)) return []
    const speech = new Speech(peaks, from, until)
    const sentences = sentenceTexts(written)
    if (speech.length === 0 || sentences.length === 0) return []
    told.add(text)
    const ends = endsOf(
      sentences.map((sentence) => sum(lettersOf(sentence))),
      speech.places(),
      speech.length,
    )
    return sentences.flatMap((sentence, n) => {
      const [start, end] = [ends[n - 1] ?? 0, ends[n] ?? speech.length]
      return shares(lettersOf(sentence), start, end).map((part, k): Word => ({
        text: sentence[k] ?? '',
        from: Math.round(speech.inStretch(part.from, false)),
        until: Math.round(speech.inStretch(part.to, true)),
        sure: SURE,
        source: 'written',
      }))
    })
  })
  return { words, unsaid: [] }
}
