import { getStroke } from 'perfect-freehand'
import { INK_WIDTHS, MARKER_BREADTH } from '@core/model'
import type { Ms, Size, Stroke } from '@core/model'
import { labelBox } from './label'

/** Corners of a closed shape, in pixels. */
export type Outline2D = readonly (readonly [number, number])[]

/** Breadth of a stroke's line, as a fraction of the slide's height. */
export const strokeBreadth = (stroke: Pick<Stroke, 'tool' | 'width'>): number =>
  INK_WIDTHS[stroke.width] * (stroke.tool === 'marker' ? MARKER_BREADTH : 1)

/**
 * The shape that a stroke covers.
 * @param stroke the stroke
 * @param elapsed ms of it to draw, or null for all of it
 * @param size the slide's size in pixels
 * @returns corners of a closed shape; empty when none of it is due yet
 */
export function strokeOutline(stroke: Stroke, elapsed: Ms | null, size: Size): Outline2D {
  const due = elapsed === null ? stroke.points : stroke.points.filter((point) => point.dt <= elapsed)
  if (due.length === 0) return []
  const points = due.map((point) => [point.x * size.width, point.y * size.height, point.p])
  return getStroke(points, {
    size: strokeBreadth(stroke) * size.height,
    thinning: stroke.pressure ? 0.5 : 0,
    smoothing: stroke.clean === true ? 0 : 0.5,
    streamline: stroke.clean === true ? 0 : 0.3,
    simulatePressure: false,
    last: elapsed === null,
  }) as [number, number][]
}

/** Bounds of what a stroke can cover when whole, in fractions of the slide, widened by its width. @param shape of the slide */
export function strokeBounds(
  stroke: Stroke,
  shape: Size,
): { readonly left: number; readonly top: number; readonly right: number; readonly bottom: number } {
  if (stroke.tool === 'label') {
    const { x, y, w, h } = labelBox(stroke, shape)
    return { left: x, top: y, right: x + w, bottom: y + h }
  }
  const margin = strokeBreadth(stroke)
  const xs = stroke.points.map((point) => point.x)
  const ys = stroke.points.map((point) => point.y)
  const least = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity)
  const most = (values: readonly number[]): number => values.reduce((a, b) => Math.max(a, b), -Infinity)
  return { left: least(xs) - margin, top: least(ys) - margin, right: most(xs) + margin, bottom: most(ys) + margin }
}
