import type { Ref } from 'vue'
import type { Slide, SlideId } from '@core/model'

/** A slide in one of its steps. */
export interface Stand {
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
export function deckPlace(running: Ref<readonly Slide[]>, stays: () => boolean) {
  const slideId = ref<SlideId | null>(null)
  const step = ref(0)
  const slide = computed<Slide | null>(() => running.value.find((one) => one.id === slideId.value) ?? running.value[0] ?? null)
  const place = computed(() => (slide.value === null ? -1 : running.value.indexOf(slide.value)))
  /** A further step, the next slide, or nothing. */
  const coming = computed<Stand | null>(() => {
    if (slide.value === null) return null
    if (step.value < slide.value.steps.length - 1) return { slide: slide.value, step: step.value + 1 }
    const next = stays() ? undefined : running.value[place.value + 1]
    return next === undefined ? null : { slide: next, step: 0 }
  })
  const going = computed<Stand | null>(() => {
    if (slide.value === null) return null
    if (step.value > 0) return { slide: slide.value, step: step.value - 1 }
    const last = running.value[place.value - 1]
    return last === undefined ? null : { slide: last, step: last.steps.length - 1 }
  })
  return { slideId, step, slide, place, coming, going }
}
