import type { SlideId } from '@core/model'
import { wordsToSpell } from './words-to-spell'

/** Something that is written or said for a slide. */
export interface SpeltText {
  readonly slide: SlideId
  readonly text: string
}

/** A word that no dictionary knows, and the slides that it is written or said for, each once. */
export interface UnknownWord {
  readonly word: string
  readonly slides: readonly SlideId[]
}

/**
 * Words that may be misspelt.
 * @param isKnown whether a word is one; it is asked once for each
 * @param own words that are left alone, whatever their case; of several words each
 */
export function unknownWords(
  texts: readonly SpeltText[],
  isKnown: (word: string) => boolean,
  own: readonly string[],
): readonly UnknownWord[] {
  const left = new Set(own.flatMap(wordsToSpell).map((word) => word.toLowerCase()))
  const known = new Map<string, boolean>()
  const found = new Map<string, Set<SlideId>>()
  for (const { slide, text } of texts) {
    for (const word of wordsToSpell(text)) {
      const bare = word.replace(/'s$/, '').toLowerCase()
      if (left.has(bare) || left.has(word.toLowerCase())) continue
      const right = known.get(word) ?? isKnown(word)
      known.set(word, right)
      if (!right) found.set(word, (found.get(word) ?? new Set<SlideId>()).add(slide))
    }
  }
  return [...found].map(([word, slides]) => ({ word, slides: [...slides] }))
}
