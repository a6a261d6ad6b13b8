import type { InkPoint, Ms, Point, Rect, Size, Stroke } from '@core/model'

/** What a hand meant, in fractions of the slide. */
export type Shape =
  { readonly kind: 'line' | 'arrow'; readonly from: Point; readonly to: Point } | { readonly kind: 'box' | 'ellipse'; readonly rect: Rect }

/** A stroke's ends nearer than this part of its length are taken to meet. */
const MEETS = 0.2
/** Farthest a hand may stray from a straight line, as a part of its length. */
const STRAYS = 0.09
/** Farthest a hand may stray on average from a box or an ellipse, as a part of its half size. */
const OFF_SHAPE = 0.16
/** A head's strokes are this part of an arrow's shaft, within bounds in heights of the slide; its half angle in radians. */
const HEAD = { part: 0.22, least: 0.02, most: 0.07, angle: 0.5 } as const
/** Smaller than this, in heights of the slide, a stroke is a dot or a letter and stays as it is. */
const SMALLEST = 0.03
/** Distance between the points of a clean shape, in heights of the slide. */
const SPACING = 0.008

type Spot = readonly [number, number]

const distance = (a: Spot, b: Spot): number => Math.hypot(a[0] - b[0], a[1] - b[1])
const lengthOf = (path: readonly Spot[]): number => path.reduce((sum, spot, n) => sum + distance(spot, path[n - 1] ?? spot), 0)

/** Farthest that a path strays from the line between two points. */
function strays(path: readonly Spot[], a: Spot, b: Spot): number {
  const length = distance(a, b)
  if (length === 0) return Infinity
  return path.reduce((most, [x, y]) => Math.max(most, Math.abs((b[0] - a[0]) * (a[1] - y) - (a[0] - x) * (b[1] - a[1])) / length), 0)
}

/** Index of an arrow's tip: of the points that are about farthest from its beginning, the first. Drawing the head passes it again. */
function tipOf(path: readonly Spot[]): number {
  const away = path.map((spot) => distance(spot, path[0] ?? spot))
  const most = Math.max(...away)
  return away.findIndex((far) => far >= most * 0.985)
}

function openShape(path: readonly Spot[]): { readonly kind: 'line' | 'arrow'; readonly a: Spot; readonly b: Spot } | null {
  const [first, last] = [path[0], path.at(-1)]
  if (first === undefined || last === undefined) return null
  if (strays(path, first, last) < STRAYS * distance(first, last)) return { kind: 'line', a: first, b: last }
  // A shaft, then a head: the hand goes to the tip and strays no further than a head is long.
  const at = tipOf(path)
  const tip = path[at]
  if (tip === undefined) return null
  const shaft = distance(first, tip)
  const head = path.slice(at)
  const near = head.every((spot) => distance(spot, tip) < 0.5 * shaft)
  const drawn = lengthOf(head)
  return strays(path.slice(0, at + 1), first, tip) < STRAYS * shaft && near && drawn > 0.12 * shaft
    ? { kind: 'arrow', a: first, b: tip }
    : null
}

function closedShape(path: readonly Spot[]): {
  readonly kind: 'box' | 'ellipse'
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
} | null {
  const xs = path.map((spot) => spot[0])
  const ys = path.map((spot) => spot[1])
  const [left, top] = [Math.min(...xs), Math.min(...ys)]
  const [width, height] = [Math.max(...xs) - left, Math.max(...ys) - top]
  if (Math.min(width, height) < SMALLEST) return null
  const mean = (off: (x: number, y: number) => number): number =>
    path.reduce((sum, [x, y]) => sum + off(((x - left) / width) * 2 - 1, ((y - top) / height) * 2 - 1), 0) / path.length
  // From -1 to 1 across the bounds: on an ellipse the radius is 1, on a box the larger of both is.
  const fromEllipse = mean((x, y) => Math.abs(Math.hypot(x, y) - 1))
  const fromBox = mean((x, y) => Math.abs(Math.max(Math.abs(x), Math.abs(y)) - 1))
  if (Math.min(fromEllipse, fromBox) > OFF_SHAPE) return null
  return { kind: fromEllipse < fromBox ? 'ellipse' : 'box', left, top, width, height }
}

/**
 * What a stroke resembles.
 * @param points at least a few, in fractions of the slide
 * @param shape of the slide
 * @returns null when it is none of these: writing, a wave, a dot
 */
export function shapeOf(points: readonly Point[], shape: Size): Shape | null {
  const ratio = shape.width / shape.height
  const path = evenly(points.map((point): Spot => [point.x * ratio, point.y]))
  const length = lengthOf(path)
  const [first, last] = [path[0], path.at(-1)]
  if (first === undefined || last === undefined || length < SMALLEST) return null
  const back = ([x, y]: Spot): Point => ({ x: x / ratio, y })
  if (distance(first, last) < MEETS * length) {
    const closed = closedShape(path)
    return closed === null
      ? null
      : { kind: closed.kind, rect: { x: closed.left / ratio, y: closed.top, w: closed.width / ratio, h: closed.height } }
  }
  const open = openShape(path)
  return open === null ? null : { kind: open.kind, from: back(open.a), to: back(open.b) }
}

/** Points at even distances along a path, so that a slow hand does not count for more. */
function evenly(path: readonly Spot[]): readonly Spot[] {
  const [first] = path
  if (first === undefined) return []
  const even: Spot[] = [first]
  let left = SPACING
  for (const [n, to] of path.entries()) {
    let from = path[n - 1] ?? to
    let apart = distance(from, to)
    while (apart >= left) {
      const share = left / apart
      from = [from[0] + (to[0] - from[0]) * share, from[1] + (to[1] - from[1]) * share]
      even.push(from)
      apart -= left
      left = SPACING
    }
    left -= apart
  }
  const last = path.at(-1)
  return last === undefined ? even : [...even, last]
}

/** The corners of a clean shape in the order in which a pen would pass them, in heights of the slide. */
function cornersOf(shape: Shape, ratio: number): readonly Spot[] {
  if ('rect' in shape && shape.kind === 'box') {
    const { x, y, w, h } = shape.rect
    const [l, r] = [x * ratio, (x + w) * ratio]
    return [
      [l, y],
      [r, y],
      [r, y + h],
      [l, y + h],
      [l, y],
    ]
  }
  if ('rect' in shape) {
    const { x, y, w, h } = shape.rect
    return Array.from({ length: 73 }, (_, n): Spot => {
      const angle = (n / 72) * 2 * Math.PI - Math.PI / 2
      return [(x + w / 2) * ratio + (w / 2) * ratio * Math.cos(angle), y + h / 2 + (h / 2) * Math.sin(angle)]
    })
  }
  const from: Spot = [shape.from.x * ratio, shape.from.y]
  const to: Spot = [shape.to.x * ratio, shape.to.y]
  if (shape.kind === 'line') return [from, to]
  const angle = Math.atan2(to[1] - from[1], to[0] - from[0])
  const head = Math.max(HEAD.least, Math.min(HEAD.most, distance(from, to) * HEAD.part))
  const wing = (side: number): Spot => [
    to[0] - head * Math.cos(angle + side * HEAD.angle),
    to[1] - head * Math.sin(angle + side * HEAD.angle),
  ]
  return [from, to, wing(1), to, wing(-1)]
}

const digits = (value: number): number => Math.round(value * 100_000) / 100_000

/**
 * The stroke that a hand meant: the clean line, arrow, box or ellipse that it resembles, drawn in the same time.
 * @param shape of the slide
 * @returns null when it resembles none
 */
export function tidied(stroke: Stroke, shape: Size): Stroke | null {
  const meant = shapeOf(stroke.points, shape)
  if (meant === null) return null
  const ratio = shape.width / shape.height
  const path = evenly(cornersOf(meant, ratio))
  const time: Ms = stroke.points.at(-1)?.dt ?? 0
  const points = path.map(([x, y], n): InkPoint => ({
    dt: Math.round((time * n) / Math.max(1, path.length - 1)),
    x: digits(x / ratio),
    y: digits(y),
    p: 0.5,
  }))
  return { ...stroke, clean: true, pressure: false, points }
}
