import type { Point, Size, Stroke } from '@core/model'
import { labelBox } from './label'
import { strokeBreadth } from './outline'

/** Distance of a point from the line between two others, in the units they are given in. */
function fromLine(px: number, py: number, ax: number, ay: number, bx: number, by: number): number {
  const [dx, dy] = [bx - ax, by - ay]
  const length = dx * dx + dy * dy
  const along = length === 0 ? 0 : Math.max(0, Math.min(1, ((px - ax) * dx + (py - ay) * dy) / length))
  return Math.hypot(px - ax - along * dx, py - ay - along * dy)
}

/**
 * Whether an eraser or a finger touches a stroke.
 * @param at in fractions of the slide
 * @param reach how near is near enough, as a fraction of the slide's height; the stroke's own breadth is added
 * @param shape of the slide
 */
export function touchesStroke(stroke: Stroke, at: Point, reach: number, shape: Size): boolean {
  const ratio = shape.width / shape.height
  if (stroke.tool === 'label') {
    const { x, y, w, h } = labelBox(stroke, shape)
    return at.x > x - reach / ratio && at.x < x + w + reach / ratio && at.y > y - reach && at.y < y + h + reach
  }
  const most = reach + strokeBreadth(stroke) / 2
  const [px, py] = [at.x * ratio, at.y]
  return stroke.points.some((point, n) => {
    const before = stroke.points[n - 1] ?? point
    return fromLine(px, py, before.x * ratio, before.y, point.x * ratio, point.y) <= most
  })
}
