import type { Ref } from 'vue'
import { beginsAfter, movesFor } from '@core/objects'
import type { Ms, Slide, SlideId } from '@core/model'
import type { Screen } from '@core/session'

export interface MotionsPresented {
  readonly screen: Ref<Screen>
  readonly slide: Ref<Slide | null>
}

/** What is drawn on the slide that is up and moves while it is presented. Stamps are times of the page's clock. */
export function presentedMotions({ screen, slide }: MotionsPresented) {
  /** When what moves with the step that is up began to; -Infinity: it moves no more. */
  let since = -Infinity
  /** How long it had been moving when it was halted; null: it goes on. */
  let halted: Ms | null = null
  /** The step that is up, as far as it was told. */
  let up: { readonly slide: SlideId; readonly step: number } | null = null

  /** How long what moves with the step has been moving; Infinity: it has arrived. */
  const elapsed = (stamp: number): Ms => halted ?? Math.max(0, stamp - since)

  const here = (): { readonly slide: SlideId; readonly step: number } => ({ slide: screen.value.slide, step: screen.value.step })

  /** A step has come: what moves with it does when it follows the one before, or is the first of another slide. */
  function arrived(stamp: number): void {
    const now = here()
    const comes = up?.slide === now.slide ? up.step === now.step - 1 : now.step === 0
    up = now
    halted = null
    since = comes ? stamp : -Infinity
  }

  /** Nothing is recorded for a while: all stands until it goes on. */
  function rest(stamp: number): void {
    halted = elapsed(stamp)
  }

  /** A stretch, or a part of a run-through, begins. @returns how long it has been moving then; null: it moves no more */
  function opening(stamp: number): Ms | null {
    const passed = elapsed(stamp)
    since = stamp - passed
    halted = null
    up = here()
    return passed < movesFor(slide.value?.drawing, screen.value.step) ? Math.round(passed) : null
  }

  /** What is there when it goes on, as after going back in a take. @param moved as in `Snapshot` */
  function standAt(moved: Ms | undefined): void {
    up = here()
    halted = moved ?? Infinity
  }

  /** When the next step begins by itself, by the page's clock; null: it does not. @param stamp now */
  function nextBegins(stamp: number): number | null {
    const after = halted === null ? beginsAfter(slide.value?.drawing, screen.value.step) : null
    return after === null || since === -Infinity ? null : Math.max(stamp, since + after)
  }

  return { elapsed, arrived, rest, opening, standAt, nextBegins }
}
