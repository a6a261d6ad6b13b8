import { CAPTION_GROUNDS, CAPTION_PLACES, CAPTION_SIZES, INK_COLOURS } from '@core/model'
import type { AddedInk, BedId, CaptionStyle, CutId, InkGround, OverlayId, SlideId, StretchId, StrokeId } from '@core/model'
import type { InkChange, ProgrammeEdit } from '@core/programme'
import { DAY, VISIT, ms, talkTime } from './bounds'
import { BACKDROP, BED, LIGHT, OVERLAY, VOICE_TREATMENT } from './dressing-shapes'
import { STROKE } from './ink-shapes'
import { list, nullable, optional, record, text, uuidOf, variants, whole, word } from './shape'
import { FRAMING } from './slide-shapes'

/** Parts of a talk that one edit can name: a talk of three hours has some thousand pauses. */
const MOST_PARTS = 20_000
/** Strokes that are changed at once. */
const MOST_STROKES = 5000

const before = nullable(VISIT)
const anyVisits = list(VISIT, 0, MOST_PARTS)
const visits = list(VISIT, 1, MOST_PARTS)

/** Tells a showing from another of the same recording. */
export const SHOWING_NAME = text(1, 12, /^[0-9a-z]{1,12}$/)

const GROUND = variants<InkGround>({ stretch: { id: uuidOf() }, still: { id: text(1, 200) } })

const INK_CHANGE = variants<InkChange>({
  delete: {},
  colour: { colour: word(INK_COLOURS) },
  shift: { by: whole(-DAY, DAY), most: optional(record({ earlier: ms, later: ms })) },
})

const ratioTerm = whole(1, 10_000)

const ONE = {
  cut: { parts: list(record({ from: talkTime, to: talkTime }), 1, MOST_PARTS) },
  drop: { visits },
  reopen: { seam: text<CutId>(1, 300) },
  move: { visit: VISIT, before },
  repeat: { visit: VISIT, before, name: SHOWING_NAME },
  tempo: { visits: anyVisits, rate: record({ num: ratioTerm, den: ratioTerm }) },
  hold: { visit: VISIT, length: ms },
  hush: { visits: anyVisits },
  linger: { visit: VISIT, length: ms, step: whole(0, 500), of: optional(record({ stretch: uuidOf<StretchId>(), at: ms })) },
  insert: { slide: uuidOf<SlideId>(), version: whole(1, 2 ** 31 - 1), length: ms, before, name: uuidOf() },
  framing: { visits, framing: nullable(FRAMING) },
  looked: { visits },
  captions: {
    style: record<CaptionStyle>({ size: word(CAPTION_SIZES), place: word(CAPTION_PLACES), ground: word(CAPTION_GROUNDS) }),
  },
  overlay: { overlay: OVERLAY },
  bed: { bed: BED },
  bare: { ids: list(uuidOf<OverlayId | BedId>(), 1, 500) },
  voice: { stretches: list(uuidOf<StretchId>(), 0, MOST_PARTS), visits: anyVisits, treatment: nullable(VOICE_TREATMENT) },
  light: { stretches: list(uuidOf<StretchId>(), 0, MOST_PARTS), visits: anyVisits, light: nullable(LIGHT) },
  backdrop: { stretches: list(uuidOf<StretchId>(), 0, MOST_PARTS), visits: anyVisits, backdrop: nullable(BACKDROP) },
  ink: { visit: VISIT, strokes: list(uuidOf<StrokeId>(), 1, MOST_STROKES), change: INK_CHANGE },
  draw: { ink: record<AddedInk>({ visit: VISIT, over: GROUND, at: ms, stroke: STROKE }) },
} as const

/** What Review may do with a programme. What is done together is not nested. */
export const PROGRAMME_EDIT = variants<ProgrammeEdit>({
  ...ONE,
  all: { edits: list(variants<Exclude<ProgrammeEdit, { kind: 'all' }>>(ONE), 1, 200) },
})
