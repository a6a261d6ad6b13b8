import { mergeContent } from '@core/layout'
import type { Ms, Slide } from '@core/model'

/** Words a minute until the presenter's own rate is known. */
export const SPEAKING_RATE = 130
/** Words a minute at which a viewer reads a slide. */
export const READING_RATE = 200
/** Looking at a drawing that fills the slide once over. */
const LOOKING: Ms = 12_000
/** Turning to a further step. */
const STEP_PAUSE: Ms = 1_000
/** Nobody takes in a slide in less. */
export const SHORTEST_SHOWING: Ms = 3_000

/** How many words there are in a text, in any script that puts spaces between them. */
export const countWords = (text: string): number => text.match(/[\p{L}\p{N}][\p{L}\p{N}'’.-]*/gu)?.length ?? 0

const minutes = (words: number, rate: number): Ms => (words / rate) * 60_000

/** Time to take in what is on a slide: its last words read, its drawing looked at, by how much of it is filled. */
function viewingTime(slide: Slide): Ms {
  const words = Math.max(...slide.steps.map((step) => countWords(step.text)))
  const content = mergeContent(slide.steps.map((step) => step.content))
  const filled = Array.from(content).filter((cell) => cell !== '0').length / Math.max(1, content.length)
  return minutes(words, READING_RATE) + filled * LOOKING
}

/**
 * How long a slide is likely to be up: its notes said at the presenter's rate, or the time to take in what is on it
 * when that is longer, and a moment for each further step.
 * @param speakingRate words a minute, 60 to 260
 * @returns whole ms, in steps of a second
 */
export function proposedTime(slide: Slide, speakingRate: number = SPEAKING_RATE): Ms {
  const spoken = minutes(countWords(slide.notes), speakingRate)
  const whole = Math.max(SHORTEST_SHOWING, spoken, viewingTime(slide)) + (slide.steps.length - 1) * STEP_PAUSE
  return Math.round(whole / 1000) * 1000
}

/** The time a slide is planned for: the presenter's own figure, else the proposal; nothing for a skipped slide. */
export const plannedTime = (slide: Slide, speakingRate: number = SPEAKING_RATE): Ms =>
  slide.skip ? 0 : slide.planned ?? proposedTime(slide, speakingRate)

/** Planned time of a whole deck. */
export const plannedTotal = (slides: readonly Slide[], speakingRate: number = SPEAKING_RATE): Ms =>
  slides.reduce((sum, slide) => sum + plannedTime(slide, speakingRate), 0)
