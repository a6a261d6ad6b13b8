/** The ground of a page: what its colour would be at any place if nothing were on it. */
export interface GroundModel {
  /** Share of the page's pixels that are ground, 0 to 1. */
  readonly explained: number
  readonly isGround: (x: number, y: number) => boolean
}

type Pixels = Uint8Array | Uint8ClampedArray
/** For each colour the weights of 1, x, y, x², xy, y², with x and y from -1 to 1. */
type Surface = readonly [readonly number[], readonly number[], readonly number[]]

/** A colour this far from the ground's, in any of red, green and blue, is something on it. */
const TOLERANCE = 14
/** Pixels looked at when a model is fitted: every so many, in both directions. */
const STRIDE = 3
const TERMS = 6

const terms = (x: number, y: number, width: number, height: number): readonly number[] => {
  const u = (2 * x) / width - 1
  const v = (2 * y) / height - 1
  return [1, u, v, u * u, u * v, v * v]
}

/** Solves the normal equations of a least squares fit by Gaussian elimination with pivoting. */
function solve(matrix: readonly (readonly number[])[], right: readonly number[]): readonly number[] | null {
  const rows = matrix.map((row, n) => [...row, right[n] ?? 0])
  for (let column = 0; column < TERMS; column += 1) {
    let pivot = column
    for (let row = column + 1; row < TERMS; row += 1) if (Math.abs(rows[row]?.[column] ?? 0) > Math.abs(rows[pivot]?.[column] ?? 0)) pivot = row
    const top = rows[pivot]
    const swap = rows[column]
    if (top === undefined || swap === undefined || Math.abs(top[column] ?? 0) < 1e-9) return null
    rows[pivot] = swap
    rows[column] = top
    for (let row = 0; row < TERMS; row += 1) {
      const other = rows[row]
      if (row === column || other === undefined) continue
      const factor = (other[column] ?? 0) / (top[column] ?? 1)
      for (let k = column; k <= TERMS; k += 1) other[k] = (other[k] ?? 0) - factor * (top[k] ?? 0)
    }
  }
  return rows.map((row, n) => (row[TERMS] ?? 0) / (row[n] ?? 1))
}

function fit(rgba: Pixels, width: number, height: number, taken: (x: number, y: number) => boolean): Surface | null {
  const matrix = Array.from({ length: TERMS }, () => new Array<number>(TERMS).fill(0))
  const rights = [0, 1, 2].map(() => new Array<number>(TERMS).fill(0))
  let count = 0
  for (let y = 0; y < height; y += STRIDE) {
    for (let x = 0; x < width; x += STRIDE) {
      if (!taken(x, y)) continue
      count += 1
      const t = terms(x, y, width, height)
      const at = (y * width + x) * 4
      for (let i = 0; i < TERMS; i += 1) {
        const row = matrix[i]
        if (row === undefined) continue
        for (let j = 0; j < TERMS; j += 1) row[j] = (row[j] ?? 0) + (t[i] ?? 0) * (t[j] ?? 0)
        for (const [channel, right] of rights.entries()) right[i] = (right[i] ?? 0) + (t[i] ?? 0) * (rgba[at + channel] ?? 0)
      }
    }
  }
  if (count < 60) return null
  const [red, green, blue] = rights.map((right) => solve(matrix, right))
  return red == null || green == null || blue == null ? null : [red, green, blue]
}

function near(rgba: Pixels, width: number, height: number, surface: Surface, tolerance: number): (x: number, y: number) => boolean {
  return (x, y) => {
    const t = terms(x, y, width, height)
    const at = (y * width + x) * 4
    return surface.every((weights, channel) => {
      let expected = 0
      for (let n = 0; n < TERMS; n += 1) expected += (weights[n] ?? 0) * (t[n] ?? 0)
      return Math.abs(expected - (rgba[at + channel] ?? 0)) <= tolerance
    })
  }
}

/** The colour that most of a page has, as a test for being close to it. */
function commonest(rgba: Pixels, width: number, height: number): (x: number, y: number) => boolean {
  const counts = new Map<number, number>()
  const bin = (x: number, y: number): number => {
    const at = (y * width + x) * 4
    return (((rgba[at] ?? 0) >> 4) << 8) | (((rgba[at + 1] ?? 0) >> 4) << 4) | ((rgba[at + 2] ?? 0) >> 4)
  }
  for (let y = 0; y < height; y += STRIDE) for (let x = 0; x < width; x += STRIDE) counts.set(bin(x, y), (counts.get(bin(x, y)) ?? 0) + 1)
  let best = 0
  let most = -1
  for (const [key, count] of counts) if (count > most) [best, most] = [key, count]
  return (x, y) => bin(x, y) === best
}

function shareOf(test: (x: number, y: number) => boolean, width: number, height: number): number {
  let inside = 0
  let all = 0
  for (let y = 0; y < height; y += STRIDE) {
    for (let x = 0; x < width; x += STRIDE) {
      all += 1
      if (test(x, y)) inside += 1
    }
  }
  return inside / Math.max(1, all)
}

/**
 * Fits a page's ground: the smooth surface of second order, for each colour, that explains most of the page, found by
 * least squares with what does not belong to it left out again and again (iteratively trimmed). It begins from the
 * page's edge, from its commonest colour and from the whole page, and keeps the best.
 */
export function groundModel(rgba: Pixels, width: number, height: number): GroundModel {
  const edge = Math.max(4, Math.round(Math.min(width, height) * 0.05))
  const starts: readonly ((x: number, y: number) => boolean)[] = [
    (x, y) => x < edge || y < edge || x >= width - edge || y >= height - edge,
    commonest(rgba, width, height),
    () => true,
  ]
  let best: GroundModel = { explained: 0, isGround: () => false }
  for (const start of starts) {
    let taken = start
    let found: GroundModel | null = null
    for (const tolerance of [60, 34, 20, TOLERANCE]) {
      const surface = fit(rgba, width, height, taken)
      if (surface === null) break
      taken = near(rgba, width, height, surface, tolerance)
      if (tolerance === TOLERANCE) found = { explained: shareOf(taken, width, height), isGround: taken }
    }
    if (found !== null && found.explained > best.explained) best = found
  }
  return best
}
