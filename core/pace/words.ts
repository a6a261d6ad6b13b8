import { withoutPauses, wordsOf } from '@core/markup'

/** Languages that put no spaces between words; their words are found by the dictionary that comes with the platform (ECMA-402, Intl.Segmenter). */
const UNSPACED = new Set(['zh', 'ja', 'th', 'lo', 'km', 'my'])
const segmenters = new Map<string, Intl.Segmenter>()

function segmenterOf(language: string): Intl.Segmenter {
  const known = segmenters.get(language)
  if (known !== undefined) return known
  const made = new Intl.Segmenter(language, { granularity: 'word' })
  segmenters.set(language, made)
  return made
}

/**
 * How many words there are in a plain text.
 * @param language of the text, as a BCP 47 tag
 */
export function countWords(text: string, language = 'en'): number {
  if (UNSPACED.has(language.split('-')[0] ?? '')) {
    let count = 0
    for (const segment of segmenterOf(language).segment(text)) if (segment.isWordLike === true) count += 1
    return count
  }
  return text.match(/[\p{L}\p{N}][\p{L}\p{N}\p{M}'’.-]*/gu)?.length ?? 0
}

/** Words that are said of some notes: markup and pause marks are not. */
export const spokenWords = (notes: string, language = 'en'): number => countWords(wordsOf(withoutPauses(notes)), language)
