import type { Ms } from '@core/model'
import { SPEAKING_RATE } from './planned'

/** What a presenter once said of some notes: how many words they have, and how long was spoken, pauses apart. */
export interface Speech {
  readonly words: number
  /** ms */
  readonly spoken: Ms
}

/** Less than this says nothing of a rate: a greeting, a title. */
export const FEWEST_WORDS = 12
/** Weight of the usual rate against what was heard, in words: after as many words both count alike. */
const BENEFIT = 100
/** Bounds of a believable rate, in words a minute: beyond them something else was said than what is written. */
export const LEAST_RATE = 60
export const MOST_RATE = 260

const rateOf = ({ words, spoken }: Speech): number => (spoken <= 0 ? 0 : (words / spoken) * 60_000)

/** Whether a visit tells anything of how fast its presenter speaks. */
export const tells = (speech: Speech): boolean =>
  speech.words >= FEWEST_WORDS && rateOf(speech) >= LEAST_RATE && rateOf(speech) <= MOST_RATE

/**
 * A presenter's own speaking rate, learnt from rehearsals and takes. It begins at the usual rate and follows what was
 * heard as that grows.
 * @param heard in any order; what tells nothing is left out
 * @returns words a minute, `LEAST_RATE` to `MOST_RATE`
 */
export function learntRate(heard: readonly Speech[]): number {
  let words = BENEFIT
  let time = (BENEFIT / SPEAKING_RATE) * 60_000
  for (const speech of heard) {
    if (!tells(speech)) continue
    words += speech.words
    time += speech.spoken
  }
  return Math.round((words / time) * 60_000)
}
