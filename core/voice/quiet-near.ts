import type { Ms } from '@core/model'
import { PEAKS_A_SECOND } from './peaks'

const STEP = 1000 / PEAKS_A_SECOND
/** Farthest that a join is moved for the sake of quiet, in ms. */
const REACH: Ms = 200

/**
 * The quietest place near a time of a voice, for a join. The nearer one of two that are as quiet.
 * @param peaks the voice's outline; see `peaksOf`
 * @returns ms, whole, at most 200 from `at`; `at` itself where the outline says nothing
 */
export function quietNear(peaks: readonly number[], at: Ms): Ms {
  let best = { at: Math.round(at), level: peaks[Math.floor(at / STEP)] ?? -1 }
  if (best.level < 0) return best.at
  for (let n = Math.max(0, Math.ceil((at - REACH) / STEP - 0.5)); (n + 0.5) * STEP <= at + REACH && n < peaks.length; n += 1) {
    const level = peaks[n] ?? 255
    const middle = Math.round((n + 0.5) * STEP)
    if (level < best.level || (level === best.level && Math.abs(middle - at) < Math.abs(best.at - at))) best = { at: middle, level }
  }
  return best.at
}
