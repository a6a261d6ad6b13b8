import type { Ms } from '@core/model'

/** From one time (inclusive) to another (exclusive), in ms. */
export interface TimeRange {
  readonly from: Ms
  readonly to: Ms
}
