import {
  BREADTH,
  COLOURS_ON_SLIDES,
  EASES,
  ENTRANCES,
  FAR_OUTSIDE,
  LETTERS,
  LONGEST_MOTION,
  MOST_DRAWN_STEPS,
  MOST_GROWN,
  MOST_MOTIONS,
  MOST_OBJECTS,
  MOST_POINTS,
  MOST_WORDS_ON,
  MOTION_STARTS,
  PATH_LINES,
  SLANTS,
  SMALLEST_OBJECT,
  TEXT_ALIGNS,
  THEMES,
} from '@core/model'
import type { Drawing, MotionDeed, ObjectForm, ObjectMotion, Point, Size, SlideObject, StepStart } from '@core/model'
import { digestOf, distinct, pixels, share } from './bounds'
import { checked, flag, list, nullable, real, record, text, uuidOf, variants, whole, word } from './shape'

const outside = real(-FAR_OUTSIDE, FAR_OUTSIDE)
const extent = real(SMALLEST_OBJECT, FAR_OUTSIDE)
const breadth = real(BREADTH.least, BREADTH.most)
const label = text(0, MOST_WORDS_ON.label)
const outlined = { filled: flag, breadth, label }
const wait = whole(0, LONGEST_MOTION)
/** Steps of a deck's slide, and those that are added to it. */
const step = whole(0, 500 + MOST_DRAWN_STEPS)

const FORM = variants<ObjectForm>({
  text: { text: text(0, MOST_WORDS_ON.text), letters: real(LETTERS.least, LETTERS.most), align: word(TEXT_ALIGNS) },
  picture: { asset: digestOf(), size: record<Size>({ width: pixels, height: pixels }), alt: text(0, MOST_WORDS_ON.alt) },
  line: { slant: word(SLANTS), breadth },
  arrow: { slant: word(SLANTS), back: flag, breadth },
  box: outlined,
  ellipse: outlined,
  callout: { label, tip: record<Point>({ x: real(-20, 20), y: real(-20, 20) }) },
  freehand: { points: list(record<Point>({ x: share, y: share }), 1, MOST_POINTS), breadth },
})

const OBJECT = record<SlideObject>({
  id: uuidOf(),
  form: FORM,
  box: record({ x: outside, y: outside, w: extent, h: extent }),
  turn: real(-180, 180),
  colour: word(COLOURS_ON_SLIDES),
  opacity: share,
  locked: flag,
  group: nullable(text(1, 60)),
})

const DEED = variants<MotionDeed>({
  comes: { how: word(ENTRANCES) },
  goes: { how: word(ENTRANCES) },
  path: {
    points: list(record<Point>({ x: real(-2 * FAR_OUTSIDE, 2 * FAR_OUTSIDE), y: real(-2 * FAR_OUTSIDE, 2 * FAR_OUTSIDE) }), 1, MOST_POINTS),
    line: word(PATH_LINES),
    turns: flag,
  },
  grows: { to: real(0, MOST_GROWN) },
  fades: { to: share },
})

const MOTION = record<ObjectMotion>({
  id: uuidOf(),
  object: uuidOf(),
  step,
  start: word(MOTION_STARTS),
  delay: wait,
  duration: wait,
  ease: word(EASES),
  does: DEED,
})

const START = record<StepStart>({ step, after: word(['begun', 'ended'] as const), wait })

/** What is drawn on a slide; without objects: nothing is any more. */
export const DRAWING = checked(
  record<Drawing>({
    objects: list(OBJECT, 0, MOST_OBJECTS),
    motions: list(MOTION, 0, MOST_MOTIONS),
    starts: list(START, 0, 500),
    theme: word(THEMES),
  }),
  ({ objects, motions, starts }) => {
    if (!distinct(objects.map(({ id }) => id))) return 'Each object on a slide has an id of its own.'
    if (!distinct(motions.map(({ id }) => id))) return 'Each motion on a slide has an id of its own.'
    return distinct(starts.map((start) => start.step)) ? null : 'A step begins in one way.'
  },
)
