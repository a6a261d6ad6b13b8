import { INK_HEX } from '@core/ink'
import { INK_WIDTHS, MARKER_BREADTH } from '@core/model'
import type { InkPoint, Ms, Rect, Size, Stroke } from '@core/model'

/** A stroke of a slide, with when it is begun, in ms after the slide appears. */
export interface TimedInk {
  readonly at: Ms
  readonly stroke: Stroke
}

/** Whoever plays recorded ink goes on by a point in so many ms. */
const POINT_TIME = 8
/** Hundredths of a millimetre in the height of a slide: what the format measures ink in. */
const HEIGHT = 19_050
const CM = 1000

/** A stroke's points as far apart in time as they are played. */
function evenly(points: readonly InkPoint[]): readonly InkPoint[] {
  const [first] = points
  const end = points.at(-1)?.dt ?? 0
  if (first === undefined || end < POINT_TIME) return points
  let n = 0
  return Array.from({ length: Math.floor(end / POINT_TIME) + 1 }, (_, step) => {
    const dt = step * POINT_TIME
    while (n < points.length - 2 && (points[n + 1]?.dt ?? 0) <= dt) n += 1
    const [a, b] = [points[n] ?? first, points[n + 1] ?? first]
    const share = b.dt > a.dt ? Math.min(1, Math.max(0, (dt - a.dt) / (b.dt - a.dt))) : 0
    return { dt, x: a.x + (b.x - a.x) * share, y: a.y + (b.y - a.y) * share, p: a.p }
  })
}

/** The smallest rectangle that holds all points. */
export function boundsOfInk(ink: readonly TimedInk[]): Rect {
  const points = ink.flatMap(({ stroke }) => stroke.points)
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)]
  const [left, top] = [xs.reduce((a, b) => Math.min(a, b), 1), ys.reduce((a, b) => Math.min(a, b), 1)]
  return { x: left, y: top, w: xs.reduce((a, b) => Math.max(a, b), 0) - left, h: ys.reduce((a, b) => Math.max(a, b), 0) - top }
}

const property = (name: string, value: string): string => `<inkml:brushProperty name="${name}" value="${value}"/>`

function brush({ tool, colour, width }: Stroke, n: number): string {
  const marker = tool === 'marker'
  const breadth = (INK_WIDTHS[width] * HEIGHT * (marker ? MARKER_BREADTH : 1)) / CM
  const size = breadth.toFixed(3)
  return (
    `<inkml:brush xml:id="br${String(n)}">${property('width', size)}${property('height', size)}${property('color', INK_HEX[colour])}` +
    `${marker ? `${property('tip', 'rectangle')}${property('rasterOp', 'maskPen')}` : ''}</inkml:brush>`
  )
}

/** Ink with the times at which it was drawn (InkML, W3C 2011, with the actions of [MS-PPTX]). @param shape of the slide */
export function inkPart(ink: readonly TimedInk[], shape: Size): string {
  const wide = (HEIGHT * shape.width) / shape.height
  const trace = ({ at, stroke }: TimedInk, n: number): string => {
    const points = evenly(stroke.points).map(({ x, y }) => `${String(Math.round(x * wide))} ${String(Math.round(y * HEIGHT))}`)
    return (
      `<iact:action type="add" startTime="${String(at)}"><iact:property name="dataType"/><iact:actionData xml:id="d${String(n)}">` +
      `<inkml:trace xmlns:inkml="http://www.w3.org/2003/InkML" xml:id="stk${String(n)}" contextRef="#ctx0" brushRef="#br${String(n)}">` +
      `${points.join(', ')}</inkml:trace></iact:actionData></iact:action>`
    )
  }
  return (
    '<?xml version="1.0" encoding="UTF-8"?><inkml:ink xmlns:inkml="http://www.w3.org/2003/InkML" ' +
    'xmlns:iact="http://schemas.microsoft.com/office/powerpoint/2014/inkAction">' +
    '<inkml:definitions><inkml:context xml:id="ctx0"><inkml:inkSource xml:id="inkSrc0"><inkml:traceFormat>' +
    '<inkml:channel name="X" type="integer" units="cm"/><inkml:channel name="Y" type="integer" units="cm"/></inkml:traceFormat>' +
    '<inkml:channelProperties><inkml:channelProperty channel="X" name="resolution" value="1000" units="1/cm"/>' +
    '<inkml:channelProperty channel="Y" name="resolution" value="1000" units="1/cm"/></inkml:channelProperties>' +
    `</inkml:inkSource></inkml:context>${ink.map(({ stroke }, n) => brush(stroke, n)).join('')}</inkml:definitions>` +
    `${ink.map(trace).join('')}</inkml:ink>`
  )
}
