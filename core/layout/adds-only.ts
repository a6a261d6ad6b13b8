import type { GroundModel } from './ground'

/** How unlike two pixels must be, as a sum over red, green and blue, to have changed. */
const CHANGED = 48
/** Share of pixels that must be new for a page to add anything, and that may have gone, of those that are new. */
const NEW = 0.0012
const GONE = 0.04
/** More new than this, and it is another page. */
const OTHER = 0.5
/** Share of pixels that must be there before anything can be added to them. */
const THERE = 0.002

/**
 * Whether a page shows all that the page before it shows and something more, as pages of a slide that builds up do.
 * @param before four bytes a pixel, row by row
 * @param ground of the page before
 * @param after of the same size
 */
export function addsOnly(before: Uint8ClampedArray, ground: GroundModel, after: Uint8ClampedArray): boolean {
  if (before.length !== after.length) return false
  const pixels = ground.isGround.length
  let there = 0
  let fresh = 0
  let gone = 0
  for (let n = 0; n < pixels; n += 1) {
    const at = n * 4
    const empty = ground.isGround[n] === 1
    if (!empty) there += 1
    const unlike =
      Math.abs(before[at]! - after[at]!) + Math.abs(before[at + 1]! - after[at + 1]!) + Math.abs(before[at + 2]! - after[at + 2]!)
    if (unlike <= CHANGED) continue
    if (empty) fresh += 1
    else gone += 1
  }
  return there > pixels * THERE && fresh > pixels * NEW && fresh < pixels * OTHER && gone <= fresh * GONE
}

/** Whether the words of one page are all on the next as well, as often as on the first. */
export function keepsWords(before: string, after: string): boolean {
  const left = new Map<string, number>()
  for (const word of after.split(/\s+/)) left.set(word, (left.get(word) ?? 0) + 1)
  return before
    .split(/\s+/)
    .filter((word) => word !== '')
    .every((word) => {
      const count = left.get(word) ?? 0
      left.set(word, count - 1)
      return count > 0
    })
}
