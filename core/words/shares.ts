import type { Ms } from '@core/model'
import type { TimeRange } from '@core/voice'

/**
 * A time shared out, one part after the other.
 * @param weights of the parts, such as their letters
 * @returns parts in order, not rounded
 */
export function shares(weights: readonly number[], from: Ms, to: Ms): readonly TimeRange[] {
  const all = Math.max(
    1,
    weights.reduce((sum, weight) => sum + weight, 0),
  )
  let before = 0
  return weights.map((weight) => {
    const begins = from + ((to - from) * before) / all
    before += weight
    return { from: begins, to: from + ((to - from) * before) / all }
  })
}

/** How long words take to say, in letters; a space is one. */
export const lettersOf = (words: readonly string[]): readonly number[] => words.map((word) => word.length + 1)

/** Words of a text and their shares of a time, by their letters. */
export function wordsOver(text: string, from: Ms, to: Ms): readonly (TimeRange & { readonly text: string })[] {
  const words = text.split(/\s+/u).filter((word) => word !== '')
  return shares(lettersOf(words), from, to).map((time, n) => ({ ...time, text: words[n] ?? '' }))
}
