import { groundModel } from './ground'

/** How unlike two pixels must be, as a sum over red, green and blue, to have changed. */
const CHANGED = 48
/** Share of pixels that must be new for a page to add anything, and that may have gone, of those that are new. */
const NEW = 0.0012
const GONE = 0.04

/**
 * Whether a page shows all that the page before it shows and something more, as pages of a slide that builds up do.
 * @param before four bytes a pixel, row by row
 * @param after of the same size
 */
export function addsOnly(before: Uint8ClampedArray, after: Uint8ClampedArray, width: number, height: number): boolean {
  if (before.length !== after.length) return false
  const ground = groundModel(before, width, height)
  let there = 0
  let fresh = 0
  let gone = 0
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const at = (y * width + x) * 4
      const empty = ground.isGround(x, y)
      if (!empty) there += 1
      const unlike = Math.abs((before[at] ?? 0) - (after[at] ?? 0)) + Math.abs((before[at + 1] ?? 0) - (after[at + 1] ?? 0)) + Math.abs((before[at + 2] ?? 0) - (after[at + 2] ?? 0))
      if (unlike <= CHANGED) continue
      if (empty) fresh += 1
      else gone += 1
    }
  }
  const pixels = width * height
  return there > pixels * 0.002 && fresh > pixels * NEW && gone <= fresh * GONE
}
