import type { Ref } from 'vue'
import { Refusal } from '@core/model'
import type { Slide, SlideId } from '@core/model'
import type { FittedWindow, ShownWindow, TakeRecorder } from '~/capture'
import type { DeckPosition } from './deck-position'

export interface WindowShownBy {
  readonly held: Ref<FittedWindow | null>
  /** Is called when it was closed. */
  readonly ended: Ref<(() => void) | null>
  readonly slide: Ref<Slide | null>
  readonly step: Ref<number>
  /** The next slide in the deck, or further step. */
  readonly next: Ref<DeckPosition | null>
  readonly show: (target: DeckPosition, stamp: number) => void
  /** Puts a slide for a window behind the one that is up, and has it saved. @returns null when that could not be */
  readonly makeSlide: (up: Slide, name: string) => Promise<Slide | null>
  readonly take: Ref<TakeRecorder | null>
  /** Says what went wrong. */
  readonly fail: (error: unknown) => void
}

/** A window that is shown in the place of slides: a slide of its own, whose picture is the window. */
export function windowView({ held, ended, slide, step, next, show, makeSlide, take, fail }: WindowShownBy) {
  /** The slide that it is, and where the presenter came from; `from` is null where the deck has it in its place. */
  const shown = shallowRef<{ readonly slide: SlideId; readonly from: DeckPosition | null } | null>(null)

  ended.value = () => {
    if (shown.value !== null)
      fail(new Refusal('unavailable', 'The window was closed. What was recorded of it is kept; Q goes back to the slides.'))
  }

  /** Has what is shown recorded; null: nothing any more. */
  function record(window: ShownWindow | null, stamp: number): void {
    take.value?.showWindow(window, stamp).catch(fail)
  }

  /** Whether a slide has been a window before. */
  const isWindow = (one: Slide | null): boolean => one?.clips?.some(({ captured }) => captured === true) === true

  function begin(on: Slide, from: DeckPosition | null, stamp: number): void {
    if (held.value === null) return
    shown.value = { slide: on.id, from }
    if (from !== null) show({ slide: on, step: 0 }, stamp)
    record({ window: held.value, slide: on.id }, stamp)
  }

  /** Shows the window that is held. */
  async function showIt(stamp: number): Promise<void> {
    const now = slide.value
    if (held.value === null || now === null || shown.value !== null) return
    // A slide that was a window before is one again.
    if (isWindow(now)) {
      begin(now, null, stamp)
      return
    }
    const from = { slide: now, step: step.value }
    const made = await makeSlide(now, held.value.name)
    if (made !== null) begin(made, from, performance.now())
  }

  /** The slides again: where the presenter was, or what comes next. */
  function leave(stamp: number): void {
    const target = shown.value === null ? null : (shown.value.from ?? next.value)
    if (target !== null) show(target, stamp)
  }

  /** What the next press shows while a window is: a further step of the slide that it was shown on comes before what follows. */
  function following(): DeckPosition | null {
    const from = shown.value?.from ?? null
    return from !== null && from.step < from.slide.steps.length - 1 ? { slide: from.slide, step: from.step + 1 } : next.value
  }

  return {
    shown,
    isWindow,
    showIt,
    leave,
    following,
    /** A slide comes up: the window is not shown any more, unless that is its own. */
    arrived: (id: SlideId, stamp: number): void => {
      if (shown.value === null || shown.value.slide === id) return
      shown.value = null
      record(null, stamp)
    },
    /** Nothing is shown any more, as when a take is over. */
    end: (): void => {
      if (shown.value !== null) record(null, performance.now())
      shown.value = null
    },
  }
}
