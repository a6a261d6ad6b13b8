import type { Ref } from 'vue'
import type { Slide, SlideId } from '@core/model'
import type { Screen } from '@core/session'

/** A slide in one of its steps. */
export interface DeckPosition {
  readonly slide: Slide
  readonly step: number
}

/**
 * The slides of a talk that are shown, in order.
 * @param admitted one that is said again and shown even when it is left out of the talk by now
 */
export const slidesToShow = (slides: readonly Slide[], admitted: SlideId | null): readonly Slide[] =>
  slides.filter((slide) => !slide.skip || slide.id === admitted)

/**
 * Where in the deck a presenter is, what the next press shows, and what the one back.
 * @param stays whether the next slide is not to be turned to
 */
export function deckPosition(running: Ref<readonly Slide[]>, screen: Ref<Screen>, stays: () => boolean) {
  const slide = computed<Slide | null>(() => running.value.find((one) => one.id === screen.value.slide) ?? running.value[0] ?? null)
  const step = computed(() => screen.value.step)
  const place = computed(() => (slide.value === null ? -1 : running.value.indexOf(slide.value)))
  /** A further step, the next slide, or nothing. */
  const nextPosition = computed<DeckPosition | null>(() => {
    if (slide.value === null) return null
    if (step.value < slide.value.steps.length - 1) return { slide: slide.value, step: step.value + 1 }
    const next = stays() ? undefined : running.value[place.value + 1]
    return next === undefined ? null : { slide: next, step: 0 }
  })
  const previousPosition = computed<DeckPosition | null>(() => {
    if (slide.value === null) return null
    if (step.value > 0) return { slide: slide.value, step: step.value - 1 }
    const last = running.value[place.value - 1]
    return last === undefined ? null : { slide: last, step: last.steps.length - 1 }
  })
  return { slide, step, place, nextPosition, previousPosition }
}
