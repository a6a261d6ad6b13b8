import type { InkColour, InkPoint, InkTool, InkWidth, Ms, Rect } from '@core/model'
import { INK_HEX } from '@core/ink'
import { INK_COLOURS, INK_WIDTHS } from '@core/model'
import type { RecordedStroke } from '@core/office'
import { attribute, childOf, childrenOf, within } from './xml'
import type { Document, Element } from './xml'

/** Most strokes of one drawing and points of one stroke that are taken. */
const MOST_STROKES = 2000
const MOST_POINTS = 4000
/** So long a stroke takes where nothing says how long, in ms a point. */
const POINT_TIME = 8

const VALUE = /(['"!]?)\s*(-?\d+(?:\.\d+)?)/g

/** Points of a trace: values by themselves, or as first (') or second (") differences (InkML, W3C 2011, 3.2.1). */
export function pointsOf(text: string): readonly (readonly [number, number])[] {
  const points: [number, number][] = []
  const ways = ['', '']
  let [before, speed] = [
    [0, 0],
    [0, 0],
  ]
  for (const part of text.split(',').slice(0, MOST_POINTS)) {
    const values = [...part.matchAll(VALUE)].slice(0, 2)
    if (values.length < 2) continue
    const at = values.map(([, way = '', digits], n) => {
      if (way !== '') ways[n] = way
      const value = Number(digits)
      const last = before[n] ?? 0
      if (ways[n] === "'") return last + value
      if (ways[n] === '"') return last + (speed[n] ?? 0) + value
      return value
    })
    speed = at.map((value, n) => value - (before[n] ?? 0))
    before = at
    points.push([at[0] ?? 0, at[1] ?? 0])
  }
  return points
}

interface Brush {
  readonly colour: InkColour
  readonly width: InkWidth
  readonly tool: InkTool
}

const channels = (hex: string): readonly number[] => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16))

/** The ink of ours that comes closest to a colour. @param hex such as `#C2452D` */
function nearestInk(hex: string): InkColour {
  const wanted = channels(hex)
  const apart = (colour: InkColour): number => channels(INK_HEX[colour]).reduce((sum, value, n) => sum + (value - (wanted[n] ?? 0)) ** 2, 0)
  return INK_COLOURS.reduce((best, one) => (apart(one) < apart(best) ? one : best))
}

/** Between fine and broad, in fractions of the slide's height. */
const BROAD = (INK_WIDTHS.fine + INK_WIDTHS.broad) / 2
/** Height of a slide as it is usually measured, in cm. */
const SLIDE_CM = 19.05

function brushOf(element: Element | undefined): Brush {
  const properties = new Map(
    (element === undefined ? [] : childrenOf(element, 'brushProperty')).map((one) => [
      attribute(one, 'name'),
      attribute(one, 'value') ?? '',
    ]),
  )
  const colour = properties.get('color') ?? ''
  const width = Number(properties.get('width'))
  const seenThrough =
    properties.get('tip') === 'rectangle' || properties.get('rasterOp') === 'maskPen' || Number(properties.get('transparency')) > 80
  return {
    colour: /^#[0-9a-f]{6}$/i.test(colour) ? nearestInk(colour) : 'night',
    width: width / SLIDE_CM > BROAD ? 'broad' : 'fine',
    tool: seenThrough ? 'marker' : 'pen',
  }
}

interface Trace {
  readonly points: readonly (readonly [number, number])[]
  readonly brush: Brush
  readonly at: Ms
}

/** Where an action on ink began, by the time that recorded ink carries; 0 for ink that lay there before. */
function startOf(trace: Element): Ms {
  for (let parent = trace.parentElement; parent !== null; parent = parent.parentElement) {
    const time = Number(attribute(parent, 'startTime'))
    if (attribute(parent, 'startTime') !== null && Number.isFinite(time)) return Math.max(0, Math.round(time))
  }
  return 0
}

/**
 * Strokes of a drawing (InkML, W3C 2011), in order of their time.
 * @param box what of the slide the drawing takes up, in fractions of it: nothing else says where it lies
 */
export function strokesOf(ink: Document, box: Rect): readonly RecordedStroke[] {
  const brushes = new Map([...within(ink, 'brush')].map((one) => [`#${attribute(one, 'id') ?? ''}`, one]))
  const traces: readonly Trace[] = [...within(ink, 'trace')].slice(0, MOST_STROKES).flatMap((trace) => {
    const points = pointsOf(trace.textContent ?? '')
    const brush = brushes.get(attribute(trace, 'brushRef') ?? '')
    return points.length === 0 ? [] : [{ points, brush: brushOf(brush), at: startOf(trace) }]
  })
  const all = traces.flatMap(({ points }) => points)
  const bounds = (axis: 0 | 1): readonly [number, number] =>
    all.reduce(([least, most], point) => [Math.min(least, point[axis]), Math.max(most, point[axis])], [Infinity, -Infinity] as readonly [
      number,
      number,
    ])
  const [left, right] = bounds(0)
  const [top, bottom] = bounds(1)
  const along = (value: number, least: number, most: number): number => (most > least ? (value - least) / (most - least) : 0.5)
  const place = ([x, y]: readonly [number, number], n: number): InkPoint => ({
    dt: n * POINT_TIME,
    x: Math.min(1, Math.max(0, box.x + box.w * along(x, left, right))),
    y: Math.min(1, Math.max(0, box.y + box.h * along(y, top, bottom))),
    p: 0.5,
  })
  return traces.map(({ points, brush, at }) => ({ at, ...brush, points: points.map(place) })).sort((a, b) => a.at - b.at)
}

/** Whether ink carries the times at which it was drawn. */
export const isTimed = (ink: Document): boolean =>
  [...within(ink, 'action')].some((one) => attribute(one, 'startTime') !== null && childOf(one, 'actionData') !== null)
