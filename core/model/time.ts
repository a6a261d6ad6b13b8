import type { StretchId } from './id'

/** Whole milliseconds. The only unit of time in the model; frames and samples live in plan/, paint/ and render. */
export type Ms = number

/** A part of a stretch, from `from` (inclusive) to `to` (exclusive), in the stretch's own time. */
export interface Span {
  readonly stretch: StretchId
  readonly from: Ms
  readonly to: Ms
}

/** A ratio of positive integers; 1/1 is as recorded, 27/25 is eight percent faster. */
export interface Ratio {
  readonly num: number
  readonly den: number
}

export const AS_RECORDED: Ratio = { num: 1, den: 1 }

/** Length of a span in milliseconds. */
export const spanLength = (span: Span): Ms => span.to - span.from
