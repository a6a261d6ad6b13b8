import { assignment } from './assignment'
import { picturesAlike, preparedPicture } from './signature'
import type { PreparedPicture } from './signature'

/** What of a slide is compared. */
export interface MatchSlide {
  /** The words on it, in order, without its notes. */
  readonly words: readonly string[]
  readonly title: string
  /** See `SIGNATURE`; null: it is not known. */
  readonly picture: readonly number[] | null
}

/** A slide of the old deck that is one of the new, by their places, counted from 0. */
export interface MatchedPair {
  readonly old: number
  readonly now: number
  /** 0 to 1. */
  readonly likeness: number
  /** Nothing else is nearly as likely. */
  readonly sure: boolean
  /** Whether anything that is seen differs. */
  readonly changed: boolean
}

/** Which slide of a new deck is which of the old. */
export interface DeckMatch {
  /** In order of the new deck. */
  readonly pairs: readonly MatchedPair[]
  /** Slides of the new deck that are none of the old. */
  readonly added: readonly number[]
  /** Slides of the old deck that are none of the new. */
  readonly gone: readonly number[]
}

/** Less alike than this are no pair. */
const LEAST = 0.34
/** As alike as this, and so much more than with any other, is sure. */
const SURE = 0.62
const AHEAD = 0.16
/** What the likeness of the slides before and behind adds, and standing at the same place: they decide where nothing else does. */
const NEIGHBOURS = 0.12
const PLACE = 0.04
/** A picture that is as like as this has not changed. */
const SAME = 0.985

/** How often each word is there; a pair of letters is a word of a script without spaces, and finds what was only misspelt. */
function counted(words: readonly string[], pairs: boolean): ReadonlyMap<string, number> {
  const counts = new Map<string, number>()
  const add = (word: string): void => {
    counts.set(word, (counts.get(word) ?? 0) + 1)
  }
  for (const word of words) {
    const plain = word
      .normalize('NFKC')
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '')
    if (plain === '') continue
    if (!pairs) add(plain)
    else for (let n = 0; n < Math.max(1, plain.length - 1); n += 1) add(plain.slice(n, n + 2))
  }
  return counts
}

/** What two counts have in common of all that is in them, weighed (Dice, 1945; as a measure of sets that hold things several times). */
function shared(a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>, weight: (word: string) => number): number {
  let [both, all] = [0, 0]
  for (const [word, count] of a) {
    all += count * weight(word)
    both += Math.min(count, b.get(word) ?? 0) * weight(word)
  }
  for (const [word, count] of b) all += count * weight(word)
  return all === 0 ? 0 : (2 * both) / all
}

interface Prepared {
  readonly slide: MatchSlide
  readonly words: ReadonlyMap<string, number>
  readonly pairs: ReadonlyMap<string, number>
  readonly title: ReadonlyMap<string, number>
  readonly picture: PreparedPicture | null
}

const prepared = (slide: MatchSlide): Prepared => ({
  slide,
  words: counted(slide.words, false),
  pairs: counted(slide.words, true),
  title: counted(slide.title.split(/\s+/), true),
  picture: preparedPicture(slide.picture),
})

/** Words that are on few slides say more than those on all of them (inverse document frequency, Spärck Jones, 1972). */
function rarity(slides: readonly Prepared[]): (word: string) => number {
  const on = new Map<string, number>()
  for (const { words } of slides) for (const word of words.keys()) on.set(word, (on.get(word) ?? 0) + 1)
  return (word) => Math.log(1 + slides.length / (on.get(word) ?? 1))
}

const once = (): number => 1
/** Words in common that are hardly any, and so few words that all of them may be misspelt. */
const [HARDLY, FEW] = [0.12, 6]
/** So many words on a slide say by themselves what it is about. */
const SOME = 4

/** How alike two slides are by themselves, 0 to 1. */
function likeness(a: Prepared, b: Prepared, weight: (word: string) => number): number {
  const pictures = picturesAlike(a.picture, b.picture)
  if (a.words.size === 0 && b.words.size === 0) return pictures ?? 0
  const whole = shared(a.words, b.words, weight)
  // Whole words that have nothing in common are no misspelt ones, unless they are few.
  const misspelt = whole > HARDLY || Math.min(a.words.size, b.words.size) < FEW
  const words = misspelt ? Math.max(whole, 0.92 * shared(a.pairs, b.pairs, once) - 0.1) : whole
  const titles = a.title.size > 0 && b.title.size > 0 ? shared(a.title, b.title, once) : words
  const said = 0.75 * words + 0.25 * titles
  if (pictures === null) return said
  // Few words on a picture say little: then the picture counts for more.
  const many = Math.min(a.words.size, b.words.size)
  const share = 0.45 + 0.35 * Math.min(1, many / 12)
  // Slides of one template look alike, whatever they say: where there are words, and none in common, a look says little.
  const trust = many < SOME ? 1 : Math.min(1, 0.25 + 3 * said)
  return share * said + (1 - share) * pictures * trust
}

const equalWords = (a: MatchSlide, b: MatchSlide): boolean => a.words.join(' ') === b.words.join(' ')

/** Gains of all pairs: what they are by themselves, what stands around them, and where they stand. */
function gainsOf(alone: readonly Float64Array[], columns: number): readonly Float64Array[] {
  const rows = alone.length
  const at = (row: number, column: number): number | null =>
    row < 0 || column < 0 || row >= rows || column >= columns ? null : (alone[row]?.[column] ?? 0)
  return alone.map((row, r) =>
    row.map((value, c) => {
      if (value < LEAST / 2) return 0
      // What has no slide before it is like what has none either.
      const around = [at(r - 1, c - 1), at(r + 1, c + 1)].map((one) => one ?? 0.5)
      const near = ((around[0] ?? 0) + (around[1] ?? 0)) / 2
      const place = 1 - Math.abs(r / Math.max(1, rows - 1) - c / Math.max(1, columns - 1))
      return value * (1 - NEIGHBOURS - PLACE) + NEIGHBOURS * near + PLACE * place
    }),
  )
}

/**
 * Finds which slide of a new deck is which of the old: the assignment that gains most over all, by words, pictures and order.
 * @returns pairs that are likely enough, and whether each is sure
 */
export function matchDecks(old: readonly MatchSlide[], now: readonly MatchSlide[]): DeckMatch {
  const [before, after] = [old.map(prepared), now.map(prepared)]
  const weight = rarity([...before, ...after])
  const alone = before.map((a) => Float64Array.from(after, (b) => likeness(a, b, weight)))
  const gains = gainsOf(alone, now.length)
  const likely = gains.map((row) => row.map((gain) => (gain < LEAST ? 0 : gain)))
  const columnOf = assignment(likely, now.length)
  const bestBeside = (row: number, column: number): number => {
    let best = 0
    for (let c = 0; c < now.length; c += 1) if (c !== column) best = Math.max(best, gains[row]?.[c] ?? 0)
    for (let r = 0; r < old.length; r += 1) if (r !== row) best = Math.max(best, gains[r]?.[column] ?? 0)
    return best
  }
  const pairs = columnOf
    .flatMap((column, row): readonly MatchedPair[] => {
      const [a, b] = [before[row], after[column]]
      if (column < 0 || a === undefined || b === undefined) return []
      const gain = gains[row]?.[column] ?? 0
      const pictures = picturesAlike(a.picture, b.picture)
      const changed = !equalWords(a.slide, b.slide) || (pictures !== null && pictures < SAME)
      return [{ old: row, now: column, likeness: gain, sure: gain >= SURE && gain - bestBeside(row, column) >= AHEAD, changed }]
    })
    .sort((a, b) => a.now - b.now)
  const [taken, kept] = [new Set(pairs.map((pair) => pair.now)), new Set(pairs.map((pair) => pair.old))]
  return {
    pairs,
    added: now.map((_, n) => n).filter((n) => !taken.has(n)),
    gone: old.map((_, n) => n).filter((n) => !kept.has(n)),
  }
}
