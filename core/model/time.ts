import type { StretchId } from './id'

/**
 * Milliseconds. Whole in everything that is stored: times of a recording, lengths of what is held. A time of the finished talk need not be
 * whole where something is played at another tempo; it is never rounded on the way, only the frame grid of an export rounds.
 */
export type Ms = number

/** A ratio of positive integers; 1/1 is as recorded, 27/25 is eight percent faster. */
export interface Ratio {
  readonly num: number
  readonly den: number
}

export const AS_RECORDED: Ratio = { num: 1, den: 1 }

/** Whether two ratios are the same number. */
export const sameRatio = (a: Ratio, b: Ratio): boolean => a.num * b.den === b.num * a.den

/** A part of a stretch, from `from` (inclusive) to `to` (exclusive), in whole ms of the stretch's own time, and how fast it is played. */
export interface Span {
  readonly stretch: StretchId
  readonly from: Ms
  readonly to: Ms
  readonly rate: Ratio
}

/** How much of its recording a span holds, in whole ms, whatever its rate. */
export const spanLength = (span: Pick<Span, 'from' | 'to'>): Ms => span.to - span.from
