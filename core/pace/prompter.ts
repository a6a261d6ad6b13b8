import { withoutPauses } from '@core/markup'
import type { SpokenLine } from '@core/markup'
import type { Ms } from '@core/model'
import { LEAST_RATE, MOST_RATE } from './rate'
import { countWords, lettersSaid } from './words'

/** The lines of a slide's notes, measured for following a voice. */
export interface Script {
  /**
   * Words said before each line, and last the number of all; each line has its share of them by its letters, as that is how long it
   * takes.
   */
  readonly starts: readonly number[]
  /** How long each line is a pause, in ms; 0 for words. */
  readonly pauses: readonly Ms[]
}

/** One idea of where a reader is. */
interface Guess {
  /** Words said when the place was certain last, and how long was spoken since, in ms. */
  readonly sure: number
  readonly spoken: Ms
  /** Natural logarithm of the reader's rate in words a minute, and how uncertain it is (variance). */
  readonly pace: number
  readonly doubt: number
  /** How unlikely this idea is, as a negative logarithm of its odds. */
  readonly cost: number
}

/** Where a reader is, by the likeliest of a few ideas. */
export interface Reading {
  readonly line: number
  /** Words said until now. */
  readonly words: number
  /** Words a minute, as this reader reads. */
  readonly wordsPerMinute: number
  /** How long a pause line has been waited at, in ms. */
  readonly waited: Ms
  /** The likeliest first. */
  readonly guesses: readonly Guess[]
}

/** A silence as long as this may be the end of a sentence, in ms. */
const SENTENCE_PAUSE: Ms = 300
/** How far a reader's rate may be from what was known of it, and one sentence's from the next (standard deviations of logarithms). */
const UNKNOWN = 0.16
const UNEVEN = 0.12
/** Least deviation, in words, of where a sentence ends: a breath, a syllable. */
const RAGGED = 1
/** What it costs to take a silence for a pause within a sentence, and to have passed an end without one. */
const INSIDE = 0.8
const UNMARKED = 3
const IDEAS = 8

/** Measures lines. */
export function scriptOf(lines: readonly SpokenLine[]): Script {
  const texts = lines.map((line) => (line.kind === 'words' ? withoutPauses(line.runs.map((run) => run.text).join('')) : ''))
  const letters = texts.map(lettersSaid)
  const words = texts.reduce((sum, text) => sum + countWords(text), 0)
  const wordsInLetter =
    words /
    Math.max(
      1,
      letters.reduce((sum, count) => sum + count, 0),
    )
  const starts = [0]
  for (const count of letters) starts.push((starts.at(-1) ?? 0) + count * wordsInLetter)
  return { starts, pauses: lines.map((line) => (line.kind === 'pause' ? line.length : 0)) }
}

const certain = (words: number, wordsPerMinute: number, doubt: number): readonly Guess[] => [
  { sure: words, spoken: 0, pace: Math.log(wordsPerMinute), doubt, cost: 0 },
]

/** A reader who has said nothing yet. @param wordsPerMinute words a minute, as far as known */
export const atFirstLine = (wordsPerMinute: number): Reading => ({
  line: 0,
  words: 0,
  wordsPerMinute,
  waited: 0,
  guesses: certain(0, wordsPerMinute, UNKNOWN ** 2),
})

const total = (script: Script): number => script.starts.at(-1) ?? 0
const lastLine = (script: Script): number => Math.max(0, script.pauses.length - 1)

/** The line of words that a place is in: the first that ends behind it. */
function lineAt(script: Script, words: number): number {
  const found = script.pauses.findIndex((pause, n) => pause === 0 && words < (script.starts[n + 1] ?? 0) - 1e-6)
  return found < 0 ? lastLine(script) : found
}

const clampRate = (wordsPerMinute: number): number => Math.max(LEAST_RATE, Math.min(MOST_RATE, wordsPerMinute))

/** Goes to a line by hand; what follows counts from there. */
export function atLine(script: Script, reading: Reading, line: number): Reading {
  const to = Math.max(0, Math.min(lastLine(script), line))
  const words = script.starts[to] ?? 0
  return {
    line: to,
    words,
    wordsPerMinute: reading.wordsPerMinute,
    waited: 0,
    guesses: certain(words, reading.wordsPerMinute, reading.guesses[0]?.doubt ?? UNKNOWN ** 2),
  }
}

/**
 * Moves on by the reader's rate, whether anything is said or not; pauses are waited for as long as they say.
 * @param dt ms since the last call
 */
export function movedByRate(script: Script, reading: Reading, dt: Ms): Reading {
  const pause = script.pauses[reading.line] ?? 0
  if (pause > 0 && reading.waited < pause) {
    const waited = reading.waited + dt
    return waited < pause || reading.line >= lastLine(script) ? { ...reading, waited } : atLine(script, reading, reading.line + 1)
  }
  const words = Math.min(total(script), reading.words + (reading.wordsPerMinute * dt) / 60_000)
  const end = script.starts[reading.line + 1] ?? 0
  // Over the line's end comes the next one, be it words or a pause.
  return words >= end - 1e-6 && reading.line < lastLine(script)
    ? { ...reading, line: reading.line + 1, words, waited: 0 }
    : { ...reading, words }
}

/** Ideas that a silence gives: it was within a sentence, or it was the end of one of the next few. */
function afterSilence(script: Script, guess: Guess): readonly Guess[] {
  const ends = [...new Set(script.starts)].filter((start) => start > guess.sure).slice(0, 4)
  const ended = ends.map((end, passed): Guess => {
    const said = end - guess.sure
    const off = Math.log((said * 60_000) / Math.max(1, guess.spoken)) - guess.pace
    const uneven = UNEVEN ** 2 + (RAGGED / said) ** 2
    const spread = guess.doubt + uneven
    const trust = guess.doubt / spread
    return {
      sure: end,
      spoken: 0,
      pace: Math.log(clampRate(Math.exp(guess.pace + trust * off))),
      doubt: guess.doubt * (1 - trust) + 0.0008,
      cost: guess.cost + off ** 2 / (2 * spread) + Math.log(spread) / 2 + passed * UNMARKED,
    }
  })
  return [{ ...guess, cost: guess.cost + INSIDE - 1 }, ...ended]
}

/** The likeliest ideas, each place once; costs count from the best. */
function likeliest(ideas: readonly Guess[]): readonly Guess[] {
  const sorted = [...ideas].sort((a, b) => a.cost - b.cost)
  const least = sorted[0]?.cost ?? 0
  return sorted
    .filter((idea, n) => sorted.findIndex((other) => other.sure === idea.sure && Math.abs(other.spoken - idea.spoken) < 400) === n)
    .slice(0, IDEAS)
    .map((idea) => ({ ...idea, cost: idea.cost - least }))
}

function placed(script: Script, reading: Reading, guesses: readonly Guess[]): Reading {
  const [best] = guesses
  if (best === undefined) return reading
  const wordsPerMinute = Math.exp(best.pace)
  const words = Math.min(total(script), best.sure + (wordsPerMinute * best.spoken) / 60_000)
  return { line: lineAt(script, words), words, wordsPerMinute, waited: 0, guesses }
}

/** Sets a reading right when its presenter turns to a next step: a line is likely to begin there. */
export const setRight = (script: Script, reading: Reading): Reading =>
  placed(script, reading, likeliest(reading.guesses.flatMap((guess) => afterSilence(script, guess))))

/**
 * Follows a voice: it moves while somebody speaks, waits while nobody does, and weighs at each longer silence whether a
 * sentence ended there, which sets the place and the rate right. A few ideas are kept until one proves the likeliest.
 * @param dt ms since the last call
 * @param speaking whether speech was heard in that time
 * @param silence length of the silence that just ended, in ms; null while none has
 */
export function followed(script: Script, reading: Reading, dt: Ms, speaking: boolean, silence: Ms | null): Reading {
  const before = silence !== null && silence >= SENTENCE_PAUSE ? setRight(script, reading) : reading
  if (!speaking) return before
  return placed(
    script,
    before,
    before.guesses.map((guess) => ({ ...guess, spoken: guess.spoken + dt })),
  )
}
