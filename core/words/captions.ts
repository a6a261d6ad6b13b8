import { MOST_SIGNS, MOST_WIDE_SIGNS } from '@core/model'
import type { Caption, Ms } from '@core/model'
import { primaryOf } from '@core/language'
import { endsClause, endsSentence } from './marks'

/** A word that a caption is made of. */
interface CaptionWord {
  readonly text: string
  readonly from: Ms
  readonly until: Ms
}

const SHORTEST_CAPTION: Ms = 1000
export const LONGEST_CAPTION: Ms = 7000
/** As many signs a second can be read. */
const SIGNS_A_SECOND = 20
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
  if (endsSentence(word)) return BREAK.sentence
  if (endsClause(word)) return Math.max(0, BREAK.clause - relief)
  return Math.max(0.5, (SMALL.has(word.toLowerCase()) ? BREAK.small : BREAK.word) - relief)
}

/** How a language is set in captions. */
interface Setting {
  /** Signs of a line at most. */
  readonly most: number
  /** What stands between words. */
  readonly space: string
}

function settingOf(language: string): Setting {
  const primary = primaryOf(language)
  return { most: WIDE.has(primary) ? MOST_WIDE_SIGNS : MOST_SIGNS, space: JOINED.has(primary) ? '' : ' ' }
}

/** A row of words that is divided into captions and lines; parts of it are named by their first word and the one after their last. */
class Row {
  readonly words: readonly CaptionWord[]
  readonly #setting: Setting
  /** Signs of all words before each, without what stands between. */
  readonly #before: readonly number[]
  /** What a break after each word costs. */
  readonly breaks: readonly number[]

  constructor(words: readonly CaptionWord[], setting: Setting) {
    this.words = words
    this.#setting = setting
    this.breaks = words.map(({ text }) => breakCost(text, 0))
    let signs = 0
    this.#before = [0, ...words.map(({ text }) => (signs += text.length))]
  }

  signs(from: number, to: number): number {
    return (this.#before[to] ?? 0) - (this.#before[from] ?? 0) + this.#setting.space.length * Math.max(0, to - from - 1)
  }

  #text(from: number, to: number): string {
    return this.words
      .slice(from, to)
      .map(({ text }) => text)
      .join(this.#setting.space)
  }

  /** Where a part is broken into two lines, where that hurts least and both are about as long; `to`: not at all; null: it does not fit. */
  break(from: number, to: number): { readonly at: number; readonly cost: number } | null {
    const { most } = this.#setting
    if (this.signs(from, to) <= most) return { at: to, cost: 0 }
    let best: { readonly at: number; readonly cost: number } | null = null
    for (let at = from + 1; at < to; at += 1) {
      const [above, below] = [this.signs(from, at), this.signs(at, to)]
      if (above > most || below > most) continue
      const cost = (this.breaks[at - 1] ?? 0) + Math.abs(above - below) / 8
      if (best === null || cost < best.cost) best = { at, cost }
    }
    return best
  }

  lines(from: number, to: number): readonly string[] {
    const at = this.break(from, to)?.at ?? to
    return at === to ? [this.#text(from, to)] : [this.#text(from, at), this.#text(at, to)]
  }
}

/** A word that is longer than a line is cut into parts that are not. */
function fitting(word: CaptionWord, most: number): readonly CaptionWord[] {
  if (word.text.length <= most) return [word]
  const count = Math.ceil(word.text.length / most)
  const time = (n: number): Ms => Math.round(word.from + ((word.until - word.from) * n) / count)
  return Array.from({ length: count }, (_, n) => ({ text: word.text.slice(n * most, (n + 1) * most), from: time(n), until: time(n + 1) }))
}

/** What a part of a row costs as one caption; null: it cannot be one. */
function captionCost(row: Row, from: number, to: number): number | null {
  const { words } = row
  const [first, last, next] = [words[from], words[to - 1], words[to]]
  if (first === undefined || last === undefined) return null
  const broken = row.break(from, to)
  if (to - from > 1 && (broken === null || last.until - first.from > LONGEST_CAPTION)) return null
  const inside = words.slice(from, to - 1)
  if (inside.some((word, n) => (words[from + n + 1]?.from ?? 0) - word.until >= APART)) return null
  const room = Math.min(next?.from ?? Infinity, last.until + LINGER) - first.from
  const hurried = Math.max(0, row.signs(from, to) / SIGNS_A_SECOND - room / 1000)
  const short = Math.max(0, SHORTEST_CAPTION - room) / 300
  const ends = next === undefined ? 0 : breakCost(last.text, next.from - last.until)
  // A sentence that ends within a caption is better the end of one.
  const through = row.breaks.slice(from, to - 1).filter((cost) => cost === BREAK.sentence).length
  return 1.2 + ends + hurried * 2 + short + through * 0.8 + (broken?.cost ?? 0) * 0.4
}

/** Where the caption begins that ends before each word, in the division that costs least. */
function divided(row: Row): readonly number[] {
  const costs: number[] = [0]
  const begins: number[] = [0]
  for (let end = 1; end <= row.words.length; end += 1) {
    let [least, begin] = [Infinity, end - 1]
    for (let from = end - 1; from >= 0; from -= 1) {
      const cost = captionCost(row, from, end)
      if (cost === null) break
      const whole = (costs[from] ?? Infinity) + cost
      if (whole < least) [least, begin] = [whole, from]
    }
    costs.push(least)
    begins.push(begin)
  }
  return begins
}

/** A part of a row as one caption. */
function captionOf(row: Row, begin: number, end: number): Caption {
  const [from, said, next] = [row.words[begin]?.from ?? 0, row.words[end - 1]?.until ?? 0, row.words[end]?.from ?? Infinity]
  const until = Math.min(next, Math.max(said + LINGER, from + SHORTEST_CAPTION), from + LONGEST_CAPTION)
  return { from, until: Math.max(from + 1, Math.round(until)), lines: row.lines(begin, end) }
}

/**
 * Captions of what is said: at most two lines, each caption as long as it is said, at least a second where there is room, never more than
 * seven, broken where a sentence or a clause ends. The division that costs least over all of it is chosen.
 * @param words in order, in ms
 * @param language BCP 47 tag: it says how long a line may be
 */
export function captionsOf(words: readonly CaptionWord[], language: string): readonly Caption[] {
  const setting = settingOf(language)
  const row = new Row(
    words.flatMap((word) => fitting(word, setting.most)),
    setting,
  )
  const begins = divided(row)
  const captions: Caption[] = []
  for (let end = row.words.length; end > 0; end = begins[end] ?? 0) captions.push(captionOf(row, begins[end] ?? 0, end))
  return captions.reverse()
}
