import { PEAKS_A_SECOND, fromDb, silenceLevel } from '@core/voice'
import type { TimeRange } from '@core/voice'
import type { Ms } from '@core/model'

const STEP = 1000 / PEAKS_A_SECOND
/** A cough, a cleared throat or a click is no longer than this, in ms. */
const LONGEST: Ms = 1000
/** Shorter sounds are the end of a word that closes before it, such as a p, in ms. */
const SHORTEST: Ms = 100
/** And at least so loud, against the usual peak of the voice: a breath is softer. */
const LOUD = 0.25

/** How loud a voice is, as its peaks say it. */
export interface VoiceLevels {
  readonly peaks: readonly number[]
  /** Peaks up to this are silence. */
  readonly silent: number
  /** Sounds below this are breath. */
  readonly loud: number
}

/** @param peaks see `peaksOf` */
export function voiceLevels(peaks: readonly number[]): VoiceLevels {
  const silent = 255 * fromDb(silenceLevel(peaks))
  const heard = peaks.filter((peak) => peak > silent).sort((one, other) => one - other)
  return { peaks, silent, loud: Math.max(silent, (heard[Math.floor(heard.length / 2)] ?? 255) * LOUD) }
}

/** Sounds between silences that begin and end between two peaks, by their places, and the loudest of each. */
function runsBetween({ peaks, silent }: VoiceLevels, first: number, last: number): readonly { from: number; to: number; most: number }[] {
  const runs: { from: number; to: number; most: number }[] = []
  for (let n = first; n < last; n += 1) {
    const peak = peaks[n] ?? 0
    if (peak <= silent) continue
    const run = runs.at(-1)
    if (run?.to === n) {
      run.to = n + 1
      run.most = Math.max(run.most, peak)
    } else runs.push({ from: n, to: n + 1, most: peak })
  }
  // What touches a word is the word's.
  return runs.filter(({ from, to }) => from > first && to < last)
}

/**
 * A sound between two words that belongs to neither: silence is on either side of it. Of several, from the first to the last.
 * @param from where the word before ends, in ms of the stretch
 * @param to where the word after begins
 * @returns null when there is none
 */
export function soundBetween(levels: VoiceLevels, from: Ms, to: Ms): TimeRange | null {
  const runs = runsBetween(levels, Math.ceil(from / STEP), Math.floor(to / STEP)).filter(
    (run) => run.most >= levels.loud && (run.to - run.from) * STEP >= SHORTEST && (run.to - run.from) * STEP <= LONGEST,
  )
  const [first, last] = [runs[0], runs.at(-1)]
  return first === undefined || last === undefined ? null : { from: first.from * STEP, to: last.to * STEP }
}

/** A recogniser takes the end of a word for silence, so far at most, in ms. */
const SWELL: Ms = 400

/**
 * The silence between two words: what sounds on beyond the word before, or begins before the word after, belongs to those.
 * @param from where the word before is said to end, in ms of the stretch
 * @param to where the word after is said to begin
 */
export function silenceBetween({ peaks, silent }: VoiceLevels, from: Ms, to: Ms): TimeRange {
  const isLoud = (n: number): boolean => (peaks[n] ?? 0) > silent
  let [first, last] = [Math.floor(from / STEP), Math.ceil(to / STEP)]
  while (isLoud(first) && first * STEP < Math.min(from + SWELL, to)) first += 1
  while (isLoud(last - 1) && last * STEP > Math.max(to - SWELL, from)) last -= 1
  return { from: Math.max(from, first * STEP), to: Math.max(from, first * STEP, Math.min(to, last * STEP)) }
}
