import { useIntervalFn } from '@vueuse/core'
import type { Ms } from '@core/model'
import type { slideClock } from './slide-clock'
import type { takeSafety } from './take-safety'

/** How often the clocks are set, in ms. */
const TICK = 100

export interface TickedBy {
  readonly clock: ReturnType<typeof slideClock>
  readonly safety: ReturnType<typeof takeSafety>
  /** Has what is up follow the film, while a voice is recorded over it. */
  readonly follow: () => void
  /** ms until a recording ends by itself; null: it does not, or none is under way. */
  readonly left: () => Ms | null
  /** Ends it. @param left so many ms from now; below zero when it should have ended before */
  readonly end: (left: Ms) => void
}

/** Sets the clocks while a take or run-through is under way, and ends what has come to its end. */
export function takeTicking({ clock, safety, follow, left, end }: TickedBy) {
  function tick(): void {
    follow()
    clock.reckon(false)
    const remains = left()
    if (remains !== null && remains <= 0) end(remains)
  }
  const ticking = useIntervalFn(tick, TICK, { immediate: false })
  return {
    tick,
    start: (): void => {
      ticking.resume()
      safety.startLooking()
    },
    stop: (): void => {
      ticking.pause()
      safety.stopLooking()
    },
  }
}
