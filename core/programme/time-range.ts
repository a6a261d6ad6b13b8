import type { Ms } from '@core/model'

/** From one time (inclusive) to another (exclusive), in ms. */
export interface TimeRange {
  readonly from: Ms
  readonly to: Ms
}

/** Whether two ranges have something in common. */
export const rangesOverlap = (a: TimeRange, b: TimeRange): boolean => a.from < b.to && b.from < a.to
