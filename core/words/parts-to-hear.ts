import type { Ms } from '@core/model'
import { silencesOf } from '@core/voice'
import type { TimeRange } from '@core/voice'

/** A pause of at least this may lie between parts, in ms. */
const PAUSE: Ms = 250
/** A part is about so long, and no longer than that where there is no pause. */
const USUAL: Ms = 12_000
const LONGEST: Ms = 28_000
/** What is heard of a pause with a part, in ms. */
const BESIDE: Ms = 120
/** A part with less in it holds no word. */
const SHORTEST: Ms = 160

/**
 * Parts of a voice to be heard one by one, each from pause to pause; long silences are in none.
 * @param peaks of the voice
 * @param length of it, in ms
 */
export function partsToHear(peaks: readonly number[], length: Ms): readonly TimeRange[] {
  const pauses = silencesOf(peaks, PAUSE)
  const spoken: TimeRange[] = []
  let at = 0
  for (const { from, to } of [...pauses, { from: length, to: length }]) {
    if (from - at >= SHORTEST) spoken.push({ from: at, to: from })
    at = to
  }
  const parts: { from: Ms; to: Ms }[] = []
  for (const { from, to } of spoken) {
    const last = parts.at(-1)
    if (last !== undefined && to - last.from <= USUAL && from - last.to < 2000) last.to = to
    else for (let start = from; start < to; start += LONGEST) parts.push({ from: start, to: Math.min(to, start + LONGEST) })
  }
  return parts.map(({ from, to }) => ({ from: Math.max(0, from - BESIDE), to: Math.min(length, to + BESIDE) }))
}
