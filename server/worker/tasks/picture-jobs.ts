import { group, sum } from 'd3'
import { GOP_FRAMES, costOfSegment } from '@core/plan'
import type { RenderPlan, Segment } from '@core/plan'
import { areEncodedOnce } from '@render/video'
import type { Coding } from '@render/video'

/** Still pictures, and short parts in which ink grows, that are made in one go, at most: what is lost with a worker that is killed. */
const AT_A_TIME = { still: 16, inked: 2 } as const

export interface Numbered {
  /** Of the segment in its film. */
  readonly number: number
  readonly segment: Segment
}

/** Which segments are made with others of their kind; null: each by itself. */
export function togetherAs(segment: Segment, coding: Coding): keyof typeof AT_A_TIME | null {
  if (!areEncodedOnce(coding) || segment.inset !== null) return null
  if (segment.kind === 'still') return 'still'
  return segment.kind === 'moving' && segment.drawn < GOP_FRAMES ? 'inked' : null
}

/**
 * What a lane does at a time: one segment, or several short ones, since starting an encoder takes as long as making one of them.
 * @param lanes that there are
 * @param first which come first
 */
export function pictureJobs(plan: RenderPlan, coding: Coding, lanes: number, first: 'long' | 'short'): readonly (readonly Numbered[])[] {
  const all = plan.segments.map((segment, number): Numbered => ({ number, segment }))
  const jobs = [...group(all, ({ segment }) => togetherAs(segment, coding))].flatMap(([kind, some]) => {
    // Each lane has some of them twice at least, so that none is left with all.
    const count = kind === null ? 1 : Math.min(AT_A_TIME[kind], Math.max(1, Math.ceil(some.length / lanes / 2)))
    return Array.from({ length: Math.ceil(some.length / count) }, (_, n) => some.slice(n * count, (n + 1) * count))
  })
  // Jobs that take about as long stay in the film's order, in which slides that were drawn serve for the next one as well.
  const costed = jobs.map((job) => ({ job, cost: Math.round(Math.log2(1 + sum(job, ({ segment }) => costOfSegment(segment, plan)))) }))
  return costed.sort((a, b) => (first === 'long' ? b.cost - a.cost : a.cost - b.cost)).map(({ job }) => job)
}
