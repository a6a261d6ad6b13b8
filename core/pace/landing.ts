import type { Ms, Slide, SlideId } from '@core/model'
import { ANYBODY, plannedTime } from './planned'
import type { Speaker } from './planned'

/** A run-through or a take while it goes on. */
export interface Underway {
  /** The deck in order. */
  readonly slides: readonly Slide[]
  /** The slide that is up. */
  readonly current: SlideId
  /** How long each slide has been up in this run until now, the current one included, in ms. */
  readonly on: ReadonlyMap<SlideId, Ms>
  /** What stands before this run in the finished talk, in ms. */
  readonly before: Ms
}

/** How a run stands against its plan. */
export interface Course {
  /** Where the talk will end, in ms. */
  readonly landing: Ms
  /** How much earlier than planned this slide began, less what it has been up too long; negative when behind. */
  readonly ahead: Ms
  /** What the current slide still has of its plan; negative when it is over. */
  readonly aheadOnSlide: Ms
  /** How much longer than planned slides take in this run: 1 as planned, bounded by `LEAST_TEMPO` and `MOST_TEMPO`. */
  readonly tempo: number
}

/** Time in which a run is taken to go as planned before it has shown anything, in ms: one slide alone says little. */
const BENEFIT: Ms = 60_000
export const LEAST_TEMPO = 0.7
export const MOST_TEMPO = 1.5

const within = (value: number, least: number, most: number): number => Math.max(least, Math.min(most, value))

/**
 * How a run stands: what is done, what is still planned, and how this run compares with its plan so far. It is the plan
 * itself for a run that is on it; it grows with every delay; and within a slide it stands still until that slide is over
 * its time, since until then there is nothing new to know.
 */
// eslint-disable-next-line complexity -- one pass over the slides for all four figures, ten times a second; most are array accesses
export function courseOf({ slides, current, on, before }: Underway, speaker: Speaker = ANYBODY): Course {
  let spent = before
  for (const time of on.values()) spent += time
  const at = slides.findIndex((slide) => slide.id === current)
  // Asked ten times a second while recording, so nothing is made on the way that has to be cleared away.
  const plans = new Float64Array(slides.length)
  let [total, planned, taken] = [before, BENEFIT, BENEFIT]
  for (let n = 0; n < slides.length; n += 1) {
    const slide = slides[n] as Slide
    const plan = plannedTime(slide, speaker)
    plans[n] = plan
    total += plan
    const time = on.get(slide.id)
    if (time === undefined || n === at || slide.skip) continue
    planned += plan
    // One slide never counts for more than twice its plan, or less than half of it.
    taken += within(time, plan / 2, plan * 2)
  }
  const tempo = within(taken / planned, LEAST_TEMPO, MOST_TEMPO)
  let [left, asPlanned] = [0, 0]
  for (let n = at < 0 ? slides.length : at; n < slides.length; n += 1) {
    const [plan, time] = [plans[n] ?? 0, on.get((slides[n] as Slide).id) ?? 0]
    left += Math.max(0, plan * tempo - time)
    asPlanned += Math.max(0, plan - time)
  }
  return {
    landing: Math.round(spent + left),
    ahead: total - spent - asPlanned,
    aheadOnSlide: (plans[at] ?? 0) - (on.get(current) ?? 0),
    tempo,
  }
}

/** A landing that moves by less than this is not shown anew, in ms. */
export const CALM: Ms = 5000

/** The landing to show: the one that is shown until a fresh one is clearly another. */
export const calmLanding = (shown: Ms, fresh: Ms): Ms => (Math.abs(fresh - shown) < CALM ? shown : fresh)
