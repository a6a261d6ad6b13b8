import type { PathLine, Point, Size } from '@core/model'

/** Parts of a curve between two of its points. */
const PARTS = 24

/** A way as short straight pieces, with how far it is to each of their ends; lengths are in heights of the slide. */
export interface Way {
  readonly points: readonly Point[]
  readonly lengths: readonly number[]
}

/** A cubic between two points whose slopes follow from their neighbours (Catmull and Rom, 1974, uniform). */
function between(before: Point, from: Point, to: Point, after: Point, share: number): Point {
  const value = (a: number, b: number, c: number, d: number): number =>
    0.5 * (2 * b + (c - a) * share + (2 * a - 5 * b + 4 * c - d) * share ** 2 + (3 * b - a - 3 * c + d) * share ** 3)
  return { x: value(before.x, from.x, to.x, after.x), y: value(before.y, from.y, to.y, after.y) }
}

function curveThrough(points: readonly Point[]): readonly Point[] {
  return points.flatMap((point, n) => {
    const next = points[n + 1]
    if (next === undefined) return [point]
    const [before, after] = [points[n - 1] ?? point, points[n + 2] ?? next]
    return Array.from({ length: PARTS }, (_, part) => between(before, point, next, after, part / PARTS))
  })
}

/**
 * The way from where an object stands by points.
 * @param points from where it stands, in fractions of the slide; none: it stays @param shape of the slide
 */
export function wayBy(points: readonly Point[], line: PathLine, shape: Size): Way {
  const corners = [{ x: 0, y: 0 }, ...points]
  const all = line === 'curved' ? curveThrough(corners) : corners
  const aspect = shape.width / shape.height
  let length = 0
  const lengths = all.map((point, n) => {
    const before = all[n - 1] ?? point
    length += Math.hypot((point.x - before.x) * aspect, point.y - before.y)
    return length
  })
  return { points: all, lengths }
}

/** Which piece of a way ends behind a length of it. */
function pieceAt(lengths: readonly number[], length: number): number {
  let [low, high] = [1, lengths.length - 1]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((lengths[middle] ?? 0) < length) low = middle + 1
    else high = middle
  }
  return low
}

/** Where a way has come to. @param share of its length, 0 to 1 */
export function placeOn({ points, lengths }: Way, share: number): Point {
  const [first, whole] = [points[0], lengths.at(-1) ?? 0]
  if (first === undefined || whole === 0) return points.at(-1) ?? { x: 0, y: 0 }
  const length = share * whole
  const n = pieceAt(lengths, length)
  const [from, to] = [points[n - 1] ?? first, points[n] ?? first]
  const [begins, ends] = [lengths[n - 1] ?? 0, lengths[n] ?? 0]
  const part = ends === begins ? 1 : (length - begins) / (ends - begins)
  return { x: from.x + (to.x - from.x) * part, y: from.y + (to.y - from.y) * part }
}

/** Around a place on a way so much of it, on both sides, says where it is heading. */
const NEAR = 0.01

/** Where a way is heading, clockwise from the right, in degrees. @param share of its length, 0 to 1 @param shape of the slide */
export function headingOn(way: Way, share: number, shape: Size): number {
  const from = placeOn(way, Math.max(0, share - NEAR))
  const to = placeOn(way, Math.min(1, share + NEAR))
  return (Math.atan2(to.y - from.y, ((to.x - from.x) * shape.width) / shape.height) * 180) / Math.PI
}
