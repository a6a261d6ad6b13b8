import { TRANSITIONS } from '@core/model'
import type { SlideId } from '@core/model'
import type { SlideFields } from '@core/deck'
import type { ComposedSlide, WireEdit } from '../wire-edit'
import { MAX_NOTES, ms } from './bounds'
import { flag, list, nullable, optional, record, text, uuidOf, variants, whole, word } from './shape'
import type { Shape } from './shape'
import { DRAWING } from './drawing-shapes'
import { CLIPS, COMPOSITION, FRAMING, SLIDE_SHAPE } from './slide-shapes'

export const SLIDES: Shape<readonly SlideId[]> = list(uuidOf<SlideId>(), 1, 1000)

/** Where slides go in a deck, counted from 0. */
export const PLACE = whole(0, 5000)

const title = text(0, 200)
const section = text(0, 120)
const notes = text(0, MAX_NOTES)
const description = text(0, 4000)
const transition = word(TRANSITIONS)

const FIELDS = record<SlideFields>(
  {
    title: optional(title),
    section: optional(section),
    notes: optional(notes),
    viewerNotes: optional(notes),
    description: optional(description),
    planned: optional(nullable(ms)),
    skip: optional(flag),
    optional: optional(flag),
    framing: optional(nullable(FRAMING)),
    transition: optional(transition),
    composition: optional(COMPOSITION),
    clips: optional(CLIPS),
    drawing: optional(DRAWING),
  },
  1,
)

const COMPOSED = record<ComposedSlide>({
  id: uuidOf(),
  title,
  section,
  notes,
  viewerNotes: notes,
  description,
  planned: nullable(ms),
  skip: flag,
  optional: flag,
  framing: nullable(FRAMING),
  transition,
  composition: COMPOSITION,
  clips: optional(CLIPS),
  drawing: optional(DRAWING),
})

const ONE = {
  move: { slides: SLIDES, before: nullable(uuidOf<SlideId>()) },
  set: { slides: SLIDES, fields: FIELDS },
  remove: { slides: SLIDES },
  restore: { slides: SLIDES, at: PLACE },
  compose: { at: PLACE, slide: COMPOSED },
  merge: { slides: SLIDES },
  split: { slide: uuidOf<SlideId>(), keep: whole(1, 500), as: uuidOf<SlideId>() },
  shape: { shape: SLIDE_SHAPE },
} as const

const together = (inside: Shape<WireEdit>): Shape<WireEdit> => variants<WireEdit>({ ...ONE, all: { edits: list(inside, 0, 1000) } })

/**
 * Edits of a deck that a page may send. Slides of files come in by import: an insert can only bring back what was removed, or bring what
 * was made here. Undoing several edits at once is as deep as it goes.
 */
export const DECK_EDIT: Shape<WireEdit> = together(together(together(variants<Exclude<WireEdit, { kind: 'all' }>>(ONE))))
