import type { Ms } from '@core/model'
import { fromDb, toDb } from './level'
import { PEAKS_A_SECOND } from './peaks'

/** A part of a voice without speech, in ms of its stretch. */
export interface TimeRange {
  readonly from: Ms
  readonly to: Ms
}

const STEP = 1000 / PEAKS_A_SECOND
/** Speech is at least this much above the room, dB. */
const ABOVE_ROOM = 9
/** Whatever the room, this is silence and that is speech, dBFS of peaks. */
const SURELY_SILENT = -52
const SURELY_SPOKEN = -28
/** A shorter sound between silences is a click, not a word. */
const SHORTEST_SOUND: Ms = 100

/** Highest value of a peak. */
const LOUDEST = 255

/** The value at a rank among values that were counted, the least first; 0 when there are not so many. */
function rankedValue(counts: Uint32Array, rank: number): number {
  let below = 0
  const found = counts.findIndex((count) => (below += count) > rank)
  return Math.max(0, found)
}

/**
 * Peak level below which a voice's outline counts as silence, in dBFS: some way above the room, which is what its quietest tenth is
 * taken for.
 */
export function silenceLevel(peaks: readonly number[]): number {
  const counts = new Uint32Array(LOUDEST + 1)
  let heard = 0
  for (const value of peaks) {
    if (value <= 0) continue
    counts[Math.min(LOUDEST, Math.round(value))] = (counts[Math.min(LOUDEST, Math.round(value))] ?? 0) + 1
    heard += 1
  }
  const room = rankedValue(counts, Math.floor(heard / 10))
  return Math.max(SURELY_SILENT, Math.min(SURELY_SPOKEN, toDb(room / 255) + ABOVE_ROOM))
}

/**
 * Silences in a voice.
 * @param peaks its outline, `PEAKS_A_SECOND` of 0 to 255
 * @param shortest of the silences that are wanted, in ms
 * @param level see `silenceLevel`; found from the outline itself when left out
 * @returns in order, none overlapping
 */
export function silencesOf(peaks: readonly number[], shortest: Ms, level: number = silenceLevel(peaks)): readonly TimeRange[] {
  const limit = 255 * fromDb(level)
  const silences: { from: Ms; to: Ms }[] = []
  for (const [n, value] of peaks.entries()) {
    if (value > limit) continue
    const from = n * STEP
    const last = silences.at(-1)
    if (last !== undefined && from - last.to < SHORTEST_SOUND) last.to = from + STEP
    else silences.push({ from, to: from + STEP })
  }
  return silences.filter((silence) => silence.to - silence.from >= shortest)
}

/** A pause between words is shorter than this; what is longer is not counted as speaking, in ms. */
const BREATH: Ms = 300

/** How long was spoken between two times of a voice, its pauses apart. */
export function spokenTime(peaks: readonly number[], from: Ms, to: Ms): Ms {
  const end = Math.min(to, peaks.length * STEP)
  const silent = silencesOf(peaks, BREATH).reduce(
    (sum, silence) => sum + Math.max(0, Math.min(silence.to, end) - Math.max(silence.from, from)),
    0,
  )
  return Math.max(0, end - from - silent)
}
