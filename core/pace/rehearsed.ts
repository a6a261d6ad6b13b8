import { median } from 'd3'
import type { Ms, SlideId } from '@core/model'

/** One run-through: how long each slide was up, in the order in which they were shown. */
export interface RunThrough {
  /** `spoken`: for how long speech was heard, when somebody listened. */
  readonly visits: readonly { readonly slide: SlideId; readonly length: Ms; readonly spoken?: Ms }[]
}

/** What run-throughs say of a slide. */
export interface Rehearsed {
  /** In the newest run that showed it. */
  readonly last: Ms
  /** Over all runs that showed it; of an even number the mean of the middle two. */
  readonly median: Ms
}

/** How long each slide of a run was up in all its visits. */
export function timesOfRun(run: RunThrough): ReadonlyMap<SlideId, Ms> {
  const times = new Map<SlideId, Ms>()
  for (const { slide, length } of run.visits) times.set(slide, (times.get(slide) ?? 0) + length)
  return times
}

/** Length of a whole run. */
export const runLength = (run: RunThrough): Ms => run.visits.reduce((sum, visit) => sum + visit.length, 0)

/** What all run-throughs say of each slide. @param runs the newest first */
export function rehearsedTimes(runs: readonly RunThrough[]): ReadonlyMap<SlideId, Rehearsed> {
  const all = new Map<SlideId, Ms[]>()
  for (const run of runs) {
    for (const [slide, time] of timesOfRun(run)) {
      const times = all.get(slide)
      if (times === undefined) all.set(slide, [time])
      else times.push(time)
    }
  }
  return new Map([...all].map(([slide, times]) => [slide, { last: times[0] ?? 0, median: Math.round(median(times) ?? 0) }]))
}
