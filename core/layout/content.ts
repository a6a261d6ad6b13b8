import { CONTENT_COLUMNS, CONTENT_ROWS } from './content-grid'
import type { ContentGrid } from './content-grid'
import { groundModel, hasGround } from './ground'
import type { GroundModel } from './ground'

/** How unlike two neighbouring pixels must be, as a sum over red, green and blue, to count as an edge. */
const EDGE = 40
/** Steepness counts up to this much, so that one hard edge is not taken for a lively place. */
const STEEPEST = 160

const digit = (share: number): string => Math.min(15, Math.ceil(share * 15)).toString(16)

/** For each cell the mean of what its pixels have. */
function meanByCell(values: Uint8Array, width: number, height: number): Float64Array {
  const sums = new Float64Array(CONTENT_COLUMNS * CONTENT_ROWS)
  const counts = new Float64Array(sums.length)
  const columns = Uint8Array.from({ length: width }, (_, x) => Math.floor((x * CONTENT_COLUMNS) / width))
  for (let y = 0; y < height; y += 1) {
    const row = Math.floor((y * CONTENT_ROWS) / height) * CONTENT_COLUMNS
    for (let x = 0; x < width; x += 1) {
      const cell = row + columns[x]!
      sums[cell]! += values[y * width + x]!
      counts[cell]! += 1
    }
  }
  return sums.map((sum, cell) => sum / Math.max(1, counts[cell] ?? 0))
}

/** For each pixel how much it differs from its right and lower neighbours, whichever is more: a sum over the colours, up to `STEEPEST`. */
function steepness(rgba: Uint8Array | Uint8ClampedArray, width: number, height: number): Uint8Array {
  const steep = new Uint8Array(width * height)
  const unlike = (a: number, b: number): number =>
    Math.abs(rgba[a]! - rgba[b]!) + Math.abs(rgba[a + 1]! - rgba[b + 1]!) + Math.abs(rgba[a + 2]! - rgba[b + 2]!)
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const here = (y * width + x) * 4
      const most = Math.max(x + 1 < width ? unlike(here, here + 4) : 0, y + 1 < height ? unlike(here, here + width * 4) : 0)
      steep[y * width + x] = Math.min(STEEPEST, most)
    }
  }
  return steep
}

/** How much livelier than the calm third of a picture something must be at least. */
const LIVELIER = 7

/** The value that parts calm cells from lively ones with least variance on both sides (Otsu, 1979). */
function parting(energies: Float64Array): number {
  const sorted = Float64Array.from(energies).sort()
  const all = sorted.reduce((sum, value) => sum + value, 0)
  let below = 0
  let best = 0
  let most = -1
  for (let n = 1; n < sorted.length; n += 1) {
    below += sorted[n - 1]!
    const [low, high] = [below / n, (all - below) / (sorted.length - n)]
    const between = n * (sorted.length - n) * (high - low) ** 2
    if (between > most) {
      most = between
      // Nearer to the calm side: what is thinly written is still written.
      best = low + (high - low) * 0.36
    }
  }
  return Math.max(best, (sorted[Math.floor(sorted.length / 3)] ?? 0) + LIVELIER)
}

/**
 * Finds where a drawn page has content. On a page with a ground, flat or slowly changing, it is what differs from the
 * ground, the insides of shapes included. A photograph has no ground: there it is what is livelier than most of the
 * picture, such as text, faces and things before a sky.
 * @param rgba four bytes a pixel, row by row
 * @param width pixels in a row, at least CONTENT_COLUMNS
 * @param height rows, at least CONTENT_ROWS
 * @param ground the page's ground where it is known already
 */
export function contentOf(
  rgba: Uint8Array | Uint8ClampedArray,
  width: number,
  height: number,
  ground: GroundModel = groundModel(rgba, width, height),
): ContentGrid {
  const steep = steepness(rgba, width, height)
  if (hasGround(ground)) {
    // A third of a cell's pixels being content is as dense as text gets.
    const shares = meanByCell(
      steep.map((value, at) => (ground.isGround[at] === 0 || value > EDGE ? 1 : 0)),
      width,
      height,
    )
    return Array.from(shares, (share) => digit(share < 0.004 ? 0 : share * 3)).join('')
  }
  const energies = meanByCell(steep, width, height)
  const lively = parting(energies)
  return Array.from(energies, (energy) => digit(energy <= lively ? 0 : 0.25 + (energy - lively) / 40)).join('')
}
