import type { Ms, Slide, SlideId } from '@core/model'
import { ANYBODY, plannedTime } from './planned'
import type { Speaker } from './planned'

/**
 * Where a talk under way will end: what is spent, what the current slide still has of its plan, and the plan of the
 * slides that come after it.
 * @param slides the deck in order
 * @param current the slide that is up
 * @param spent ms since the talk began
 * @param onSlide ms of these on the current slide
 */
export function landing(slides: readonly Slide[], current: SlideId, spent: Ms, onSlide: Ms, speaker: Speaker = ANYBODY): Ms {
  const at = slides.findIndex((slide) => slide.id === current)
  const slide = slides[at]
  const left = slide === undefined ? 0 : Math.max(0, plannedTime(slide, speaker) - onSlide)
  return spent + left + slides.slice(at + 1).reduce((sum, later) => sum + plannedTime(later, speaker), 0)
}
