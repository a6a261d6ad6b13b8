import { withoutPauses, wordsOf } from '@core/markup'

/**
 * Signs of scripts that put no spaces between words: their words are found by the dictionaries that come with the platform (ECMA-402,
 * Intl.Segmenter).
 */
const UNSPACED =
  /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Thai}\p{Script=Lao}\p{Script=Khmer}\p{Script=Myanmar}ー々〆]+/gu
const SPACED = /[\p{L}\p{N}][\p{L}\p{N}\p{M}'’.-]*/gu
/** Which dictionary is used follows from the script, whatever the language. */
const segmenter = new Intl.Segmenter('und', { granularity: 'word' })

/** How many words there are in a plain text: each part of it by its script, so that it does not matter which language was set. */
export function countWords(text: string): number {
  let count = 0
  const spaced = text.replace(UNSPACED, (part) => {
    for (const segment of segmenter.segment(part)) if (segment.isWordLike === true) count += 1
    return ' '
  })
  return count + (spaced.match(SPACED)?.length ?? 0)
}

/** Words that are said of some notes: markup and pause marks are not. */
export const spokenWords = (notes: string): number => countWords(wordsOf(withoutPauses(notes)))

/** How many letters a digit and a mark within a sentence take as long to say as: "7" is "seven", a comma is a breath. */
const DIGIT_LETTERS = 4
const MARK_LETTERS = 3

/**
 * How long a plain text takes to say, in letters. Sentences read aloud keep to it more than twice as closely as to their words
 * (`npm run bench -- prompter` prints both spreads).
 */
export function lettersSaid(text: string): number {
  const count = (pattern: RegExp): number => text.match(pattern)?.length ?? 0
  return count(/\p{L}/gu) + DIGIT_LETTERS * count(/\p{N}/gu) + MARK_LETTERS * count(/[,;:、，；：]/gu)
}
