import { inkPlace } from '@core/ink'
import type { InkColour, InkPoint, InkTool, InkWidth, Ms, Point, SlideId, Stroke, StrokeId } from '@core/model'
import { asId } from '@core/model'

/** A stroke that is being drawn. */
export interface DrawingStroke {
  readonly stroke: Stroke
  readonly began: number
}

export const newStroke = (
  slide: SlideId,
  tool: InkTool,
  colour: InkColour,
  width: InkWidth,
  pressure: boolean,
  first: Omit<InkPoint, 'dt'>,
): Stroke => ({
  id: asId<'stroke'>(crypto.randomUUID()) satisfies StrokeId,
  slide,
  tool,
  colour,
  width,
  pressure,
  points: [{ dt: 0, ...first }],
})

/** Typed words, set down at a place. @param at their left edge, half way up, in fractions of the slide */
export const newLabel = (slide: SlideId, text: string, colour: InkColour, width: InkWidth, at: Point): Stroke => ({
  ...newStroke(slide, 'label', colour, width, false, { x: inkPlace(at.x), y: inkPlace(at.y), p: 0.5 }),
  text,
})

/** A point as it is kept: time in whole ms, place to a hundred-thousandth of the slide and not far off it. */
export const inkPoint = (dt: Ms, x: number, y: number, p: number): InkPoint => ({
  dt: Math.max(0, Math.round(dt)),
  x: inkPlace(x),
  y: inkPlace(y),
  p: Math.round(Math.max(0, Math.min(1, p)) * 1000) / 1000,
})
