import type { Ms } from '@core/model'
import { endsSentence } from './marks'

/** Some words in a row, and when they are said. */
export interface Saying {
  readonly from: Ms
  readonly to: Ms
  readonly words: string
}

/** A silence that ends what is read as one, in ms, and the most words that are. */
const APART: Ms = 1800
const MOST_WORDS = 45

/** What is said, sentence by sentence. @param words in order */
export function sayingsOf(
  words: readonly { readonly text: string; readonly from: Ms; readonly until: Ms; readonly visit: string }[],
): readonly Saying[] {
  const sayings: { from: Ms; to: Ms; words: string; visit: string; count: number; ended: boolean }[] = []
  for (const { text, from, until, visit } of words) {
    const last = sayings.at(-1)
    const ended = endsSentence(text)
    if (last !== undefined && !last.ended && last.visit === visit && from - last.to < APART && last.count < MOST_WORDS) {
      last.words = `${last.words} ${text}`
      last.to = until
      last.count += 1
      last.ended = ended
    } else sayings.push({ from, to: until, words: text, visit, count: 1, ended })
  }
  return sayings.map(({ from, to, words: said }) => ({ from, to, words: said }))
}
