import type { Ms } from '@core/model'
import { primaryOf } from '@core/language'

/** A word that a caption is made of. */
interface CaptionWord {
  readonly text: string
  readonly from: Ms
  readonly until: Ms
}

/** Some words that stand on screen together, one line or two. */
export interface Caption {
  readonly from: Ms
  readonly until: Ms
  readonly lines: readonly string[]
}

export const MOST_LINES = 2
export const MOST_SIGNS = 42
/** Signs of scripts that fill a square each. */
export const MOST_WIDE_SIGNS = 16
export const SHORTEST_CAPTION: Ms = 1000
export const LONGEST_CAPTION: Ms = 7000
/** As many signs a second can be read. */
export const SIGNS_A_SECOND = 20
/** A silence of at least this ends a caption, in ms. */
const APART: Ms = 1500
/** A caption may stay so much longer than it is said, where nothing else comes, in ms. */
const LINGER: Ms = 800

/** What breaks cost: after a sentence, a clause, a small word, any other. */
const BREAK = { sentence: 0, clause: 1, word: 3.5, small: 7 } as const
/** Words that belong to the next. */
const SMALL = new Set([
  'a',
  'an',
  'the',
  'of',
  'in',
  'on',
  'at',
  'to',
  'for',
  'and',
  'or',
  'but',
  'with',
  'by',
  'from',
  'is',
  'are',
  'my',
  'our',
  'its',
])

const WIDE = new Set(['zh', 'ja', 'ko'])
/** Scripts without spaces between words. */
const JOINED = new Set(['zh', 'ja', 'th', 'lo', 'km', 'my'])

function breakCost(word: string, pause: Ms): number {
  const relief = Math.min(1.5, pause / 400)
  if (/[.!?…。！？]["'”’)\]]*$/u.test(word)) return BREAK.sentence
  if (/[,;:–—、，；：]["'”’)\]]*$/u.test(word)) return Math.max(0, BREAK.clause - relief)
  return Math.max(0.5, (SMALL.has(word.toLowerCase()) ? BREAK.small : BREAK.word) - relief)
}

/** How a language is set in captions. */
class Setting {
  readonly most: number
  readonly #space: string

  constructor(language: string) {
    const primary = primaryOf(language)
    this.most = WIDE.has(primary) ? MOST_WIDE_SIGNS : MOST_SIGNS
    this.#space = JOINED.has(primary) ? '' : ' '
  }

  join(words: readonly CaptionWord[]): string {
    return words.map(({ text }) => text).join(this.#space)
  }

  /** Words in one line or two, broken where that hurts least and both are about as long, and what that costs; null: they do not fit. */
  set(words: readonly CaptionWord[]): { readonly cost: number; readonly lines: readonly string[] } | null {
    const whole = this.join(words)
    if (whole.length <= this.most) return { cost: 0, lines: [whole] }
    let best: { readonly cost: number; readonly lines: readonly string[] } | null = null
    for (let n = 1; n < words.length; n += 1) {
      const lines = [this.join(words.slice(0, n)), this.join(words.slice(n))]
      const [above = '', below = ''] = lines
      if (above.length > this.most || below.length > this.most) continue
      const cost = breakCost(words[n - 1]?.text ?? '', 0) + Math.abs(above.length - below.length) / 8
      if (best === null || cost < best.cost) best = { cost, lines }
    }
    return best
  }
}

/** A word that is longer than a line is cut into parts that are not. */
function fitting(word: CaptionWord, most: number): readonly CaptionWord[] {
  if (word.text.length <= most) return [word]
  const count = Math.ceil(word.text.length / most)
  const time = (n: number): Ms => Math.round(word.from + ((word.until - word.from) * n) / count)
  return Array.from({ length: count }, (_, n) => ({ text: word.text.slice(n * most, (n + 1) * most), from: time(n), until: time(n + 1) }))
}

/** What some words cost as one caption; null: they cannot be one. */
function captionCost(setting: Setting, words: readonly CaptionWord[], next: CaptionWord | undefined): number | null {
  const [first, last] = [words[0], words.at(-1)]
  if (first === undefined || last === undefined) return null
  const time = last.until - first.from
  const set = setting.set(words)
  if (words.length > 1 && (set === null || time > LONGEST_CAPTION)) return null
  const inside = words.slice(0, -1).some((word, n) => (words[n + 1]?.from ?? 0) - word.until >= APART)
  if (inside) return null
  const room = Math.min(next?.from ?? Infinity, last.until + LINGER) - first.from
  const signs = setting.join(words).length
  const hurried = Math.max(0, signs / SIGNS_A_SECOND - room / 1000)
  const short = Math.max(0, SHORTEST_CAPTION - room) / 300
  const ends = next === undefined ? 0 : breakCost(last.text, next.from - last.until)
  // A sentence that ends within a caption is better the end of one.
  const through = words.slice(0, -1).filter((word) => breakCost(word.text, 0) === BREAK.sentence).length
  return 1.2 + ends + hurried * 2 + short + through * 0.8 + (set?.cost ?? 0) * 0.4
}

/** Where the caption begins that ends before each word, in the division that costs least. */
function divided(setting: Setting, all: readonly CaptionWord[]): readonly number[] {
  const costs: number[] = [0]
  const begins: number[] = [0]
  for (let end = 1; end <= all.length; end += 1) {
    let [least, begin] = [Infinity, end - 1]
    for (let from = end - 1; from >= 0; from -= 1) {
      const cost = captionCost(setting, all.slice(from, end), all[end])
      if (cost === null) break
      const whole = (costs[from] ?? Infinity) + cost
      if (whole < least) [least, begin] = [whole, from]
    }
    costs.push(least)
    begins.push(begin)
  }
  return begins
}

/** Some words as one caption. @param next when something else is said */
function captionOf(setting: Setting, part: readonly CaptionWord[], next: Ms): Caption {
  const [from, said] = [part[0]?.from ?? 0, part.at(-1)?.until ?? 0]
  const until = Math.min(next, Math.max(said + LINGER, from + SHORTEST_CAPTION), from + LONGEST_CAPTION)
  return { from, until: Math.max(from + 1, Math.round(until)), lines: setting.set(part)?.lines ?? [setting.join(part)] }
}

/**
 * Captions of what is said: at most two lines, each caption as long as it is said, at least a second where there is room, never more than
 * seven, broken where a sentence or a clause ends. The division that costs least over all of it is chosen.
 * @param words in order, in ms
 * @param language BCP 47 tag: it says how long a line may be
 */
export function captionsOf(words: readonly CaptionWord[], language: string): readonly Caption[] {
  const setting = new Setting(language)
  const all = words.flatMap((word) => fitting(word, setting.most))
  const begins = divided(setting, all)
  const captions: Caption[] = []
  for (let end = all.length; end > 0; end = begins[end] ?? 0) {
    captions.unshift(captionOf(setting, all.slice(begins[end] ?? 0, end), all[end]?.from ?? Infinity))
  }
  return captions
}
