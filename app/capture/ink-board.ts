import type { InkColour, InkPoint, InkTool, InkWidth, Ms, SlideId, Stroke, StrokeId } from '@core/model'
import { asId } from '@core/model'

/** A stroke that is being drawn. */
export interface DrawingStroke {
  readonly stroke: Stroke
  readonly began: number
}

export const newStroke = (slide: SlideId, tool: InkTool, colour: InkColour, width: InkWidth, pressure: boolean, first: Omit<InkPoint, 'dt'>): Stroke => ({
  id: asId<'stroke'>(crypto.randomUUID()) satisfies StrokeId, slide, tool, colour, width, pressure, points: [{ dt: 0, ...first }],
})

const digits = (value: number): number => Math.round(value * 100_000) / 100_000

/** A point as it is kept: time in whole ms, place to a hundred-thousandth of the slide. */
export const inkPoint = (dt: Ms, x: number, y: number, p: number): InkPoint => ({
  dt: Math.max(0, Math.round(dt)), x: digits(x), y: digits(y), p: Math.round(Math.max(0, Math.min(1, p)) * 1000) / 1000,
})
