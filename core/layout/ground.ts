/** The ground of a page: what its colour would be at any place if nothing were on it. */
export interface GroundModel {
  /** Share of the page's pixels that are ground, 0 to 1. */
  readonly explained: number
  /** For each pixel, row by row: 1 where it is ground, else 0. */
  readonly isGround: Uint8Array
}

/** A model that explains less of a page than this does not describe it: the page is a photograph. */
const EXPLAINED = 0.3

/** Whether a page has a ground that things lie on. */
export const hasGround = ({ explained }: GroundModel): boolean => explained >= EXPLAINED

type Pixels = Uint8Array | Uint8ClampedArray

/** A colour this far from the ground's, in any of red, green and blue, is something on it. */
const TOLERANCE = 14
/** How far pixels may be from the fit before, while it is still being found. */
const NARROWING = [60, 34, 20, TOLERANCE]
/** Pixels looked at when a model is fitted: every so many, in both directions. A prime, so that patterns do not hide between. */
const STRIDE = 5
/** 1, x, y, x², xy, y², with x and y from -1 to 1. */
const TERMS = 6
/** A model that explains this much is not bettered by another start. */
const ENOUGH = 0.6
/** A page may lie on more than one ground, such as a sky and water under it; each has at least this share of it. */
const MOST_GROUNDS = 3
const LEAST_GROUND = 0.14
/** Fewer pixels than this fit no surface. */
const FEWEST = 60

/** Solves the normal equations of a least squares fit by Gaussian elimination with pivoting. */
// eslint-disable-next-line complexity -- three loops as they are in every textbook; the rest is what the compiler cannot know of arrays
function solve(matrix: Float64Array, right: Float64Array): Float64Array | null {
  const rows = Array.from({ length: TERMS }, (_, n) => [...matrix.subarray(n * TERMS, (n + 1) * TERMS), right[n] ?? 0])
  for (let column = 0; column < TERMS; column += 1) {
    let pivot = column
    for (let row = column + 1; row < TERMS; row += 1)
      if (Math.abs(rows[row]?.[column] ?? 0) > Math.abs(rows[pivot]?.[column] ?? 0)) pivot = row
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
  return Float64Array.from(rows, (row, n) => (row[TERMS] ?? 0) / (row[n] ?? 1))
}

/** A page's pixels, thinned out: colours from 0 to 255 and the terms at their places. */
class Sample {
  readonly count: number
  readonly colours: Uint8Array
  readonly #terms: Float64Array

  constructor(rgba: Pixels, width: number, height: number) {
    const across = Math.ceil(width / STRIDE)
    this.count = across * Math.ceil(height / STRIDE)
    this.colours = new Uint8Array(this.count * 3)
    this.#terms = new Float64Array(this.count * TERMS)
    for (let n = 0; n < this.count; n += 1) {
      const x = (n % across) * STRIDE
      const y = Math.floor(n / across) * STRIDE
      const at = (y * width + x) * 4
      const u = (2 * x) / width - 1
      const v = (2 * y) / height - 1
      this.colours.set([rgba[at] ?? 0, rgba[at + 1] ?? 0, rgba[at + 2] ?? 0], n * 3)
      this.#terms.set([1, u, v, u * u, u * v, v * v], n * TERMS)
    }
  }

  /** The surfaces of red, green and blue through the pixels that are taken; null when they fix none. */
  fit(taken: Uint8Array): readonly Float64Array[] | null {
    const matrix = new Float64Array(TERMS * TERMS)
    const rights = [new Float64Array(TERMS), new Float64Array(TERMS), new Float64Array(TERMS)]
    let count = 0
    for (let n = 0; n < this.count; n += 1) {
      if (taken[n] === 0) continue
      count += 1
      const base = n * TERMS
      for (let i = 0; i < TERMS; i += 1) {
        const t = this.#terms[base + i]!
        for (let j = i; j < TERMS; j += 1) matrix[i * TERMS + j]! += t * this.#terms[base + j]!
        for (let c = 0; c < 3; c += 1) rights[c]![i]! += t * this.colours[n * 3 + c]!
      }
    }
    if (count < FEWEST) return null
    for (let i = 0; i < TERMS; i += 1) for (let j = 0; j < i; j += 1) matrix[i * TERMS + j] = matrix[j * TERMS + i]!
    const surfaces = rights.map((right) => solve(matrix, right))
    return surfaces.every((surface) => surface !== null) ? surfaces : null
  }

  /** Takes the pixels that are close to the surfaces. @returns how many */
  take(surfaces: readonly Float64Array[], tolerance: number, taken: Uint8Array): number {
    let count = 0
    for (let n = 0; n < this.count; n += 1) {
      let near = 1
      for (let c = 0; c < 3 && near === 1; c += 1) {
        const weights = surfaces[c]!
        let expected = 0
        for (let i = 0; i < TERMS; i += 1) expected += weights[i]! * this.#terms[n * TERMS + i]!
        if (Math.abs(expected - this.colours[n * 3 + c]!) > tolerance) near = 0
      }
      taken[n] = near
      count += near
    }
    return count
  }
}

/** Every pixel of a page held against the surfaces of its ground. */
function groundMask(rgba: Pixels, width: number, height: number, surfaces: readonly Float64Array[]): Uint8Array {
  const mask = new Uint8Array(width * height).fill(1)
  for (let c = 0; c < 3; c += 1) {
    const [k = 0, kx = 0, ky = 0, kxx = 0, kxy = 0, kyy = 0] = surfaces[c] ?? []
    for (let y = 0; y < height; y += 1) {
      const v = (2 * y) / height - 1
      const row = k + ky * v + kyy * v * v
      const slope = kx + kxy * v
      for (let x = 0; x < width; x += 1) {
        const u = (2 * x) / width - 1
        const at = y * width + x
        if (Math.abs(row + slope * u + kxx * u * u - rgba[at * 4 + c]!) > TOLERANCE) mask[at] = 0
      }
    }
  }
  return mask
}

/** Pixels of the colour that most of those that are left have. */
function commonest(sample: Sample, left: Uint8Array): Uint8Array {
  const bins = Uint16Array.from(
    { length: sample.count },
    (_, n) => ((sample.colours[n * 3]! >> 4) << 8) | ((sample.colours[n * 3 + 1]! >> 4) << 4) | (sample.colours[n * 3 + 2]! >> 4),
  )
  const counts = new Uint32Array(4096)
  for (let n = 0; n < sample.count; n += 1) if (left[n] === 1) counts[bins[n]!]! += 1
  let best = 0
  for (let bin = 1; bin < counts.length; bin += 1) if (counts[bin]! > counts[best]!) best = bin
  return Uint8Array.from(bins, (bin, n) => (bin === best && left[n] === 1 ? 1 : 0))
}

/** Pixels at the page's edge. */
function edgeOf(sample: Sample, width: number, height: number): Uint8Array {
  const across = Math.ceil(width / STRIDE)
  const down = Math.ceil(height / STRIDE)
  const edge = Math.max(2, Math.round(Math.min(across, down) * 0.05))
  return Uint8Array.from({ length: sample.count }, (_, n) => {
    const x = n % across
    const y = Math.floor(n / across)
    return x < edge || y < edge || x >= across - edge || y >= down - edge ? 1 : 0
  })
}

interface Found {
  readonly count: number
  readonly surfaces: readonly Float64Array[]
  readonly taken: Uint8Array
}

/** Fits one ground by leaving out again and again what does not belong to it. @param left pixels that may belong to it */
function trimmed(sample: Sample, start: Uint8Array, left: Uint8Array): Found | null {
  const taken = start
  let count = 0
  let surfaces: readonly Float64Array[] | null = null
  for (const tolerance of NARROWING) {
    surfaces = sample.fit(taken)
    if (surfaces === null) return null
    sample.take(surfaces, tolerance, taken)
    count = 0
    for (let n = 0; n < taken.length; n += 1) {
      taken[n]! &= left[n]!
      count += taken[n]!
    }
  }
  return surfaces === null ? null : { count, surfaces, taken }
}

/** The surface that explains most, from any of some starts; one that explains enough is not bettered. */
function bestOf(sample: Sample, starts: readonly (() => Uint8Array)[], left: Uint8Array): Found | null {
  let best: Found | null = null
  for (const start of starts) {
    const found = trimmed(sample, start(), left)
    if (found !== null && (best === null || found.count > best.count)) best = found
    if (best !== null && best.count > sample.count * ENOUGH) return best
  }
  return best
}

/**
 * Fits a page's grounds: smooth surfaces of second order, for each colour, that explain most of the page, found by
 * least squares with what does not belong to them left out again and again (iteratively trimmed). The first is begun
 * from the page's edge, from its commonest colour and from the whole page, and the best is kept; large parts that are
 * left are grounds of their own.
 * @param rgba four bytes a pixel, row by row
 */
export function groundModel(rgba: Pixels, width: number, height: number): GroundModel {
  const sample = new Sample(rgba, width, height)
  const left = new Uint8Array(sample.count).fill(1)
  const isGround = new Uint8Array(width * height)
  let explained = 0
  for (let ground = 0; ground < MOST_GROUNDS; ground += 1) {
    const starts =
      ground === 0
        ? [() => edgeOf(sample, width, height), () => commonest(sample, left), () => new Uint8Array(sample.count).fill(1)]
        : [() => commonest(sample, left)]
    const best = bestOf(sample, starts, left)
    if (best === null || best.count < sample.count * LEAST_GROUND) break
    explained += best.count / sample.count
    const mask = groundMask(rgba, width, height, best.surfaces)
    for (let n = 0; n < mask.length; n += 1) isGround[n]! |= mask[n]!
    for (let n = 0; n < left.length; n += 1) if (best.taken[n] === 1) left[n] = 0
  }
  return { explained, isGround }
}
