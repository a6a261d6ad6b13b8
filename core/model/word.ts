import type { Ms } from './time'

/** Where a word's spelling comes from: only heard, found in what was written, or typed by somebody. */
export const WORD_SOURCES = ['heard', 'written', 'typed'] as const
export type WordSource = (typeof WORD_SOURCES)[number]

/** A word that is said, with the marks that stand on it, in the time of its stretch or of the film. */
export interface Word {
  readonly text: string
  readonly from: Ms
  readonly until: Ms
  /** How sure it is that this was said, 0 to 1. */
  readonly sure: number
  readonly source: WordSource
}

/** Words that were written and not said. */
export interface UnsaidWords {
  /** The place in the list of words that they would stand before. */
  readonly before: number
  readonly text: string
}

/** What is said in a stretch or a part of one, in order. */
export interface Said {
  readonly words: readonly Word[]
  readonly unsaid: readonly UnsaidWords[]
}

export const NOTHING_SAID: Said = { words: [], unsaid: [] }
