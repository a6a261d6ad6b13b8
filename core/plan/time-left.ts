import type { Ms } from '@core/model'

/** How far a delivery's pictures and its voice have come. */
export interface Pace {
  /** Since they were begun. */
  readonly elapsed: Ms
  /** What the parts cost that are done, those that were found made, and all of them, in any unit. */
  readonly spent: number
  readonly found: number
  readonly all: number
  /** What was reckoned before: for all of the delivery, and what of that comes after them. */
  readonly time: Ms
  readonly after: Ms
}

/** How much of the work is taken to have gone as fast as was reckoned, besides what was seen of it: the first parts begin slowly. */
const PRIOR_WEIGHT = 1

/** How long a delivery will take from now on. */
export function timeLeft({ elapsed, spent, found, all, time, after }: Pace): Ms {
  const pace = (elapsed + PRIOR_WEIGHT * Math.max(0, time - after)) / Math.max(1e-9, spent - found + PRIOR_WEIGHT * all)
  return Math.round(pace * Math.max(0, all - spent) + after)
}
