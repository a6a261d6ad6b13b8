import type { Ref } from 'vue'
import { calmLanding, courseOf } from '@core/pace'
import type { Speaker } from '@core/pace'
import type { Ms, Slide, SlideId } from '@core/model'

export interface ClockedBy {
  readonly running: Ref<readonly Slide[]>
  readonly slide: Ref<Slide | null>
  /** What stands before this run in the finished talk. */
  readonly before: Ref<Ms>
  /** Whether a run is on, under way or paused. */
  readonly on: () => boolean
  /** Time of the run, what stands before it left out. */
  readonly now: () => Ms
  readonly speaker: () => Speaker
}

/** The clocks of a run: how long each slide was up, how long the talk is, and where it will land. */
export function slideClock({ running, slide, before, on, now, speaker }: ClockedBy) {
  const spent = ref<Ms>(0)
  const onSlide = ref<Ms>(0)
  const landing = ref<Ms>(0)
  const ahead = ref<Ms>(0)
  let settled: ReadonlyMap<SlideId, Ms> = new Map()
  let since: Ms = 0

  /** Works out where this run will land. @param turned whether a slide has just turned, which is shown at once */
  function reckon(turned: boolean): void {
    if (slide.value === null) return
    spent.value = before.value + now()
    onSlide.value = on() ? Math.max(0, now() - since) : 0
    const times = new Map(settled).set(slide.value.id, (settled.get(slide.value.id) ?? 0) + onSlide.value)
    const course = courseOf({ slides: running.value, current: slide.value.id, on: times, before: before.value }, speaker())
    ahead.value = course.ahead
    landing.value = turned ? course.landing : calmLanding(landing.value, course.landing)
  }

  /** A visit ends. @returns how long it was */
  function endVisit(): Ms {
    const length = Math.max(0, now() - since)
    // One that was only passed over was not up.
    if (slide.value !== null && length > 0) settled = new Map(settled).set(slide.value.id, (settled.get(slide.value.id) ?? 0) + length)
    since = now()
    return length
  }

  /** Sets the clocks to where a run is: at its beginning, or back at a place in it. */
  function set(times: { readonly settled: ReadonlyMap<SlideId, Ms>; readonly since: Ms } = { settled: new Map(), since: 0 }): void {
    settled = times.settled
    since = times.since
    reckon(true)
  }

  return { spent, onSlide, landing, ahead, reckon, endVisit, set }
}
