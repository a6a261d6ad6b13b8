import type { Ms } from '@core/model'

/** Levels of what is played and of the microphone at one moment, in dBFS. */
export interface EchoSample {
  readonly played: number
  readonly heard: number
}

/** Samples a second, and how many are looked at together. */
export const ECHO_RATE = 20
const LOOKED_AT = 4 * ECHO_RATE
/** A room, a system and a device let a sound come to the microphone so much later at most. */
const LATEST: Ms = 400
/** As alike as this, the microphone hears what is played: the coefficient of correlation of both levels in dB. */
const ALIKE = 0.75
/** What hardly swells and fades tells nothing, in dB of standard deviation. */
const SWELLS = 3

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length

/** @returns the coefficient of correlation; 0 where one of both hardly swells */
function correlation(a: readonly number[], b: readonly number[]): number {
  const [meanA, meanB] = [mean(a), mean(b)]
  let [both, ownA, ownB] = [0, 0, 0]
  for (const [n, value] of a.entries()) {
    const [left, right] = [value - meanA, (b[n] ?? meanB) - meanB]
    both += left * right
    ownA += left * left
    ownB += right * right
  }
  const least = SWELLS ** 2 * a.length
  return ownA < least || ownB < least ? 0 : both / Math.sqrt(ownA * ownB)
}

/**
 * Whether a microphone hears what is played beside it: its level then swells and fades with that, a little later.
 * @param samples `ECHO_RATE` a second, the last ones last
 * @returns false also while there are too few to say
 */
export function hearsPlayed(samples: readonly EchoSample[]): boolean {
  const last = samples.slice(-LOOKED_AT)
  if (last.length < LOOKED_AT) return false
  const lags = Math.round((LATEST * ECHO_RATE) / 1000)
  const count = last.length - lags
  const played = last.slice(0, count).map((sample) => Math.max(-60, sample.played))
  return Array.from({ length: lags + 1 }, (_, lag) => last.slice(lag, lag + count).map((sample) => Math.max(-80, sample.heard))).some(
    (heard) => correlation(played, heard) > ALIKE,
  )
}
