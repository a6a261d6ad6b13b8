import type { Ms } from '@core/model'
import { fromDb } from './level'
import { PEAKS_A_SECOND } from './peaks'

/** How much softer other sound is while somebody speaks, in dB. */
export const DUCKED = -12
/** It is softer by the time speech begins, and louder again so long after it. */
const RAMP: Ms = 300
/** Between two words it stays as soft as it is. */
const HOLD: Ms = 600
/** What is heard farther away than this decides nothing. */
export const DUCKING_REACH: Ms = RAMP + HOLD
const STEP: Ms = 1000 / PEAKS_A_SECOND
/** Speech is so much below the loudness of the whole voice at most, as a peak: LUFS and dBFS. */
const BELOW = 12

/** As soft as it gets while there is speech, 0 to 1. @param before how long until speech comes @param after how long since it was there */
function depth(before: Ms, after: Ms): number {
  const coming = 1 - before / RAMP
  const gone = after <= HOLD ? 1 : 1 - (after - HOLD) / RAMP
  return Math.max(0, coming, gone)
}

/** Music stays soft in pauses up to this, and opens in longer ones: it never pumps. */
const SHORT_PAUSE: Ms = 1500
/** It is soft by the time speech begins, waits so long after it, and takes its time to come up. */
const MUSIC = { before: 400, hold: 300, after: 700 } as const
/** What is heard farther away than this decides nothing of music. */
export const MUSIC_REACH: Ms = SHORT_PAUSE

function musicDepth(before: Ms, after: Ms): number {
  if (before + after <= SHORT_PAUSE) return 1
  const gone = after <= MUSIC.hold ? 1 : 1 - (after - MUSIC.hold) / MUSIC.after
  return Math.max(0, 1 - before / MUSIC.before, gone)
}

/** As `duckingOf`, for music: at no time does more than `MUSIC_REACH` around it decide that. */
export const musicDuckingOf = (peaks: readonly number[], loudness: number): Float32Array => softenedUnder(peaks, loudness, musicDepth)

/**
 * How much softer a clip is played under a voice: at no time does more than `DUCKING_REACH` around it decide that.
 * @param peaks the voice's outline, `PEAKS_A_SECOND` of 0 to 255
 * @param loudness of the voice in LUFS
 * @returns dB for each of the peaks, 0 or less
 */
export const duckingOf = (peaks: readonly number[], loudness: number): Float32Array => softenedUnder(peaks, loudness, depth)

/** @param depthAt how soft it is between speech: 0 to 1, by how long until speech comes and since it was there */
function softenedUnder(peaks: readonly number[], loudness: number, depthAt: (before: Ms, after: Ms) => number): Float32Array {
  const limit = 255 * fromDb(loudness - BELOW)
  const spoken = peaks.map((peak) => peak > limit)
  const gains = new Float32Array(peaks.length)
  const since = new Float64Array(peaks.length)
  let last = -Infinity
  for (let n = 0; n < peaks.length; n += 1) {
    if (spoken[n] === true) last = n
    since[n] = (n - last) * STEP
  }
  let next = Infinity
  for (let n = peaks.length - 1; n >= 0; n -= 1) {
    if (spoken[n] === true) next = n
    gains[n] = DUCKED * depthAt((next - n) * STEP, since[n] ?? Infinity)
  }
  return gains
}
