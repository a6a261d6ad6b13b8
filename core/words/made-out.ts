import type { Word } from '@core/model'

/** A word from this on is as good as certain, of 1. */
const CERTAIN = 0.6
/**
 * Of speech in the language of the model so much of the time is certain at least, however strange the voice (0.32 to 0.69 of eight made
 * readings); of music, noise and other languages less (0 to 0.15 of five).
 */
const LEAST_CERTAIN = 0.25

const timeOf = (words: readonly Word[]): number => words.reduce((sum, { from, until }) => sum + until - from, 0)

/**
 * Whether anything was made out that is worth reading: words that agree with what is written, or enough that is nearly certain. A
 * recogniser hears words in music and in any language.
 */
export const isMadeOut = (words: readonly Word[]): boolean =>
  words.some(({ source }) => source === 'written') || timeOf(words.filter(({ sure }) => sure >= CERTAIN)) >= LEAST_CERTAIN * timeOf(words)
