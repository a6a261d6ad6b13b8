import { mergeContent } from '@core/layout'
import { pausesIn } from '@core/markup'
import { clipLength } from '@core/model'
import type { Clip, Ms, Slide } from '@core/model'
import { countWords, spokenWords } from './words'

/** Words a minute until the presenter's own rate is known. */
export const SPEAKING_RATE = 130
/** Words a minute at which a viewer reads a slide. */
const READING_RATE = 200
/** Looking at a drawing that fills the slide once over. */
const LOOKING: Ms = 12_000
/** Turning to a further step. */
const STEP_PAUSE: Ms = 1_000
/** Nobody takes in a slide in less. */
export const SHORTEST_SHOWING: Ms = 3_000

/** What planning knows of who speaks. */
export interface Speaker {
  /** Words a minute, 60 to 260. */
  readonly wordsPerMinute: number
}

export const ANYBODY: Speaker = { wordsPerMinute: SPEAKING_RATE }

const minutes = (words: number, wordsPerMinute: number): Ms => (words / wordsPerMinute) * 60_000

/** What a slide's time follows from, whoever speaks. */
interface Measured {
  readonly notes: string
  /** Words that are said, as its notes have them. */
  readonly words: number
  /** Pauses that its notes ask for. */
  readonly pauses: Ms
  /** To take in what is on it: its last words read, its drawing looked at, by how much of it is filled. */
  readonly viewing: Ms
}

/**
 * Measured once for each value of a slide's steps: clocks ask for all slides ten times a second. Other notes on the same steps, as
 * while they are written, are measured anew.
 */
const measured = new WeakMap<Slide['steps'], Measured>()

function measure(slide: Slide): Measured {
  const known = measured.get(slide.steps)
  if (known?.notes === slide.notes) return known
  const viewing = known?.viewing ?? viewingTime(slide)
  const made: Measured = { notes: slide.notes, words: spokenWords(slide.notes), pauses: pausesIn(slide.notes), viewing }
  measured.set(slide.steps, made)
  return made
}

function viewingTime(slide: Slide): Ms {
  const words = Math.max(...slide.steps.map((step) => countWords(step.text)))
  const content = mergeContent(slide.steps.map((step) => step.content))
  const filled = Array.from(content).filter((cell) => cell !== '0').length / Math.max(1, content.length)
  return minutes(words, READING_RATE) + filled * LOOKING
}

/** Whether a clip is a recording that lies over the slide: it plays where that was recorded, and not when the slide is shown again. */
const isOver = ({ steps }: Slide, { captured, media }: Clip): boolean =>
  captured === true && !steps.some(({ picture }) => picture.kind === 'image' && picture.source === media.picture?.poster)

/** How long the clips of a slide take that do not go round and round, in whole seconds: nobody is taken to speak over them. */
function clipTime(slide: Slide): Ms {
  const played = (slide.clips ?? []).filter((clip) => !clip.loop && !isOver(slide, clip))
  return Math.ceil(played.reduce((sum, clip) => sum + clipLength(clip), 0) / 1000) * 1000
}

const inSeconds = (time: Ms): Ms => Math.round(time / 1000) * 1000

/** The time that a slide is up with its clips. @param said how long is spoken on it, in ms */
function besideClips(slide: Slide, said: Ms): Ms {
  const clips = clipTime(slide)
  // While a clip plays there is time to take in the rest.
  return clips > 0 ? clips + said : Math.max(SHORTEST_SHOWING, said, measure(slide).viewing)
}

/**
 * The least time a slide needs: what is on it can be taken in, and its steps be turned to.
 * @returns whole ms, in steps of a second
 */
export const leastTime = (slide: Slide): Ms => inSeconds(besideClips(slide, 0) + (slide.steps.length - 1) * STEP_PAUSE)

/**
 * How long a slide is likely to be up: its notes said at the presenter's rate with their pauses, or the time to take in
 * what is on it when that is longer, its clips, and a moment for each further step.
 * @returns whole ms, in steps of a second
 */
export function proposedTime(slide: Slide, speaker: Speaker = ANYBODY): Ms {
  const { words, pauses } = measure(slide)
  const said = minutes(words, speaker.wordsPerMinute) + pauses
  return inSeconds(besideClips(slide, said) + (slide.steps.length - 1) * STEP_PAUSE)
}

/** The time a slide is planned for: the presenter's own figure, else the proposal; nothing for a skipped slide. */
export const plannedTime = (slide: Slide, speaker: Speaker = ANYBODY): Ms =>
  slide.skip ? 0 : (slide.planned ?? proposedTime(slide, speaker))

/** Planned time of a whole deck. */
export const plannedTotal = (slides: readonly Slide[], speaker: Speaker = ANYBODY): Ms =>
  slides.reduce((sum, slide) => sum + plannedTime(slide, speaker), 0)
