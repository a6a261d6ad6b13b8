import type { Ms } from '@core/model'
import { fromDb, toDb } from './level'
import { PEAKS_A_SECOND } from './peaks'
import type { TimeRange } from './silences'

const STEP = 1000 / PEAKS_A_SECOND
/** Whatever the room, what is no louder than this is silence, as a peak: one step of the outline, in which a still room comes and goes. */
const SURELY_SILENT = 1
/** No room is louder than this: whoever speaks without a pause is no room, dBFS of peaks. */
const SURELY_HEARD = -18
/** The room's own peaks stay within this of its usual one, dB; the softest speech may be little louder. */
const OF_THE_ROOM = 3
/** Speech swells and fades: this much beside what is heard belongs to it, in ms. */
const SWELL: Ms = 150

/**
 * Parts of a voice that surely hold no speech, for cutting. Unlike `silencesOf`, which says where a listener hears
 * silence, it errs on the side of speech: in noise it finds less, never a word.
 * @param peaks the voice's outline, `PEAKS_A_SECOND` of 0 to 255
 * @param shortest of the parts that are wanted, in ms
 * @returns in order, none overlapping
 */
export function speechFree(peaks: readonly number[], shortest: Ms): readonly TimeRange[] {
  const heard = [...peaks].sort((a, b) => a - b)
  // What is quiet for a twentieth of the time is the room; a part of the time is spent breathing, whoever speaks.
  const room = heard[Math.floor(heard.length / 20)] ?? 0
  const limit = Math.max(SURELY_SILENT, 255 * fromDb(Math.min(SURELY_HEARD, toDb(room / 255) + OF_THE_ROOM)))
  const free: { from: Ms; to: Ms }[] = []
  for (const [n, value] of peaks.entries()) {
    if (value > limit) continue
    const last = free.at(-1)
    if (last !== undefined && last.to === n * STEP) last.to += STEP
    else free.push({ from: n * STEP, to: (n + 1) * STEP })
  }
  const end = peaks.length * STEP
  const safe = free.map(({ from, to }) => ({ from: from === 0 ? 0 : from + SWELL, to: to === end ? end : to - SWELL }))
  return safe.filter(({ from, to }) => to - from >= shortest)
}
