import Joi from 'joi'
import { INK_REACH, MOST_OPENING_STROKES, MOST_PATH_POINTS, MOST_POINTS } from '@core/ink'
import {
  BORDERS,
  FORMATS,
  FRAME_RATES,
  INK_COLOURS,
  INK_TOOLS,
  INK_WIDTHS,
  LAYOUTS,
  LINES,
  LONGEST_LABEL,
  LOUDNESSES,
  MOST_PICTURES,
  MOST_ZOOM,
  OUTLINES,
  PLACINGS,
  QUALITIES,
  REVEALS,
  TAKE_KINDS,
  THEMES,
  TIMINGS,
  TRANSITIONS,
  USUAL_RECIPE,
} from '@core/model'

/** Longest time anything here can have: a day. */
const DAY = 86_400_000
export const MAX_NOTES = 20_000

export const uuid = Joi.string().guid({ version: 'uuidv4' }).required()
const ms = Joi.number().integer().min(0).max(DAY)
/** A time of the finished talk, in ms: where something is played at another tempo it need not be whole. */
const talkTime = Joi.number().min(0).max(DAY)
const fraction = Joi.number().min(INK_REACH.least).max(INK_REACH.most)
const share = Joi.number().min(0).max(1)

export const framing = Joi.object({
  rect: Joi.object({ x: share, y: share, w: Joi.number().min(0.02).max(1), h: Joi.number().min(0.02).max(1) })
    .options({ presence: 'required' })
    .required(),
  placing: Joi.valid(...PLACINGS).required(),
  outline: Joi.valid(...OUTLINES).required(),
  border: Joi.valid(...BORDERS).required(),
  mirrored: Joi.boolean().required(),
  zoom: Joi.number().min(1).max(MOST_ZOOM).required(),
  centre: Joi.object({ x: share, y: share }).options({ presence: 'required' }).required(),
  off: Joi.boolean().required(),
})

const digest = Joi.string().pattern(/^[0-9a-f]{64}$/)
const pixels = Joi.number().integer().min(1).max(20_000)
const composedText = Joi.string().max(6000).allow('').required()

export const composition = Joi.object({
  layout: Joi.valid(...LAYOUTS).required(),
  theme: Joi.valid(...THEMES).required(),
  heading: Joi.string().max(400).allow('').required(),
  body: composedText,
  second: composedText,
  pictures: Joi.array()
    .max(MOST_PICTURES)
    .items(
      Joi.object({
        asset: digest.required(),
        size: Joi.object({ width: pixels, height: pixels }).options({ presence: 'required' }).required(),
        alt: Joi.string().max(300).allow('').required(),
      }),
    )
    .required(),
  reveal: Joi.valid(...REVEALS).required(),
})

/** The terms of an aspect ratio, or a page's size; no side five times the other. */
export const shape = Joi.object({ width: Joi.number().min(1).max(20_000), height: Joi.number().min(1).max(20_000) })
  .options({ presence: 'required' })
  .custom((value: { width: number; height: number }, helpers) => {
    const ratio = value.width / value.height
    return ratio > 0.2 && ratio < 5 ? value : helpers.message({ custom: 'Slides cannot be that long or that narrow.' })
  })

const slideIds = Joi.array().items(uuid.optional()).min(1).max(1000).required()

const place = Joi.number().integer().min(0).max(5000).required()
const slideTexts = { notes: Joi.string().max(MAX_NOTES).allow(''), viewerNotes: Joi.string().max(MAX_NOTES).allow('') }

/**
 * Edits a page may send. Slides of files come in by import; an insert can only bring back what was removed, or bring what was made
 * here.
 */
const deckEditWith = (inside: Joi.Schema | null): Joi.ObjectSchema =>
  Joi.object({
    kind: Joi.valid(
      'move',
      'set',
      'remove',
      'restore',
      'compose',
      'merge',
      'split',
      'shape',
      ...(inside === null ? [] : ['all']),
    ).required(),
  }).when('.kind', {
    switch: [
      { is: 'move', then: Joi.object({ slides: slideIds, before: Joi.string().guid().allow(null).required() }) },
      {
        is: 'set',
        then: Joi.object({
          slides: slideIds,
          fields: Joi.object({
            title: Joi.string().max(200).allow(''),
            ...slideTexts,
            planned: ms.allow(null),
            skip: Joi.boolean(),
            optional: Joi.boolean(),
            framing: framing.allow(null),
            transition: Joi.valid(...TRANSITIONS),
            composition,
          })
            .min(1)
            .required(),
        }),
      },
      { is: 'remove', then: Joi.object({ slides: slideIds }) },
      { is: 'restore', then: Joi.object({ slides: slideIds, at: place }) },
      {
        is: 'compose',
        then: Joi.object({
          at: place,
          slide: Joi.object({
            id: uuid,
            title: Joi.string().max(200).allow('').required(),
            ...slideTexts,
            planned: ms.allow(null).required(),
            skip: Joi.boolean().required(),
            optional: Joi.boolean().default(false),
            framing: framing.allow(null).required(),
            transition: Joi.valid(...TRANSITIONS).required(),
            composition: composition.required(),
          }).required(),
        }),
      },
      { is: 'merge', then: Joi.object({ slides: slideIds }) },
      { is: 'split', then: Joi.object({ slide: uuid, keep: Joi.number().integer().min(1).max(500).required(), as: uuid }) },
      { is: 'shape', then: Joi.object({ shape: shape.required() }) },
      ...(inside === null ? [] : [{ is: 'all', then: Joi.object({ edits: Joi.array().items(inside).max(1000).required() }) }]),
    ],
  })

/** Undoing several edits at once is as deep as it goes. */
export const deckEdit = deckEditWith(deckEditWith(deckEditWith(deckEditWith(null))))

export const deckChange = Joi.object({ revision: Joi.number().integer().min(0).required(), edit: deckEdit.required() })

export const talkFields = Joi.object({
  name: Joi.string().trim().min(1).max(160),
  limit: ms.min(1000).allow(null),
  /** BCP 47: a language, and what tells it from others. */
  language: Joi.string()
    .pattern(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,3}$/)
    .max(35),
}).min(1)

export const copySlides = Joi.object({ from: uuid, slides: slideIds, at: place })

export const newTalk = Joi.object({
  name: Joi.string().trim().min(1).max(160).required(),
  limit: ms.min(1000).allow(null).required(),
})

const point = Joi.object({ dt: ms, x: fraction, y: fraction, p: share }).options({ presence: 'required' })

export const stroke = Joi.object({
  id: uuid,
  slide: uuid,
  tool: Joi.valid(...INK_TOOLS).optional(),
  clean: Joi.boolean().optional(),
  text: Joi.string().max(LONGEST_LABEL).optional(),
  colour: Joi.valid(...INK_COLOURS),
  width: Joi.valid(...Object.keys(INK_WIDTHS)),
  pressure: Joi.boolean(),
  points: Joi.array().items(point).min(1).max(MOST_POINTS),
}).options({ presence: 'required' })

const at = ms.required()
export const cue = Joi.object({
  kind: Joi.valid('show', 'ink', 'erase', 'wipe', 'point', 'blank', 'inset', 'mute', 'stumble').required(),
  at,
}).when('.kind', {
  switch: [
    { is: 'show', then: Joi.object({ slide: uuid, step: Joi.number().integer().min(0).max(500).required() }) },
    { is: 'ink', then: Joi.object({ stroke: stroke.required() }) },
    { is: 'erase', then: Joi.object({ stroke: uuid }) },
    { is: 'wipe', then: Joi.object({ slide: uuid }) },
    {
      is: 'point',
      then: Joi.object({
        path: Joi.array()
          .items(Joi.object({ dt: ms, x: fraction, y: fraction }).options({ presence: 'required' }))
          .min(1)
          .max(MOST_PATH_POINTS)
          .required(),
      }),
    },
    { is: 'blank', then: Joi.object({ on: Joi.boolean().required() }) },
    { is: 'mute', then: Joi.object({ on: Joi.boolean().required() }) },
    { is: 'inset', then: Joi.object({ on: Joi.boolean().required() }) },
  ],
})

export const cueBatch = Joi.object({
  first: Joi.number().integer().min(0).max(1_000_000).required(),
  /** Each is looked at by itself: one that cannot be taken in holds none of the others back. */
  cues: Joi.array().items(Joi.object().unknown()).min(1).max(500).required(),
})

export const snapshot = Joi.object({
  slide: uuid,
  step: Joi.number().integer().min(0).max(500).required(),
  blank: Joi.boolean().required(),
  inset: Joi.boolean().required(),
  ink: Joi.array().items(stroke).max(MOST_OPENING_STROKES).required(),
})

const visit = Joi.string().min(1).max(200)

export const intent = Joi.object({ kind: Joi.valid('replaceAll', 'append', 'replaceFrom', 'retake', 'range', 'dub').required() }).when(
  '.kind',
  {
    switch: [
      { is: Joi.valid('replaceFrom', 'dub'), then: Joi.object({ at: talkTime.required() }) },
      { is: 'retake', then: Joi.object({ visit: visit.required() }) },
      {
        is: 'range',
        then: Joi.object({ visit: visit.required(), from: talkTime.required(), to: talkTime.required().greater(Joi.ref('from')) }),
      },
    ],
  },
)

export const newTake = Joi.object({
  kind: Joi.valid(...TAKE_KINDS).required(),
  intent: intent.required(),
  place: Joi.object({ browser: uuid, name: Joi.string().min(1).max(100).required() }),
})

/** Which browser asks for what is left of a take. */
export const recovering = Joi.object({ browser: Joi.string().guid({ version: 'uuidv4' }) })

/** Which visit a voice from a file is for, and who brings it. */
export const voiceFor = Joi.object({ visit: visit.required(), browser: uuid, name: Joi.string().min(1).max(100).required() })

export const newStretch = Joi.object({
  take: uuid,
  number: Joi.number().integer().min(0).max(10_000).required(),
  camera: Joi.boolean().required(),
  voice: Joi.boolean().required(),
  mime: Joi.string()
    .pattern(/^(video|audio)\/[a-z0-9-]+(;\s?codecs=[a-z0-9.,"-]+)?$/i)
    .max(80)
    .required(),
  opening: snapshot.required(),
})

export const closing = Joi.object({
  slices: Joi.number().integer().min(0).max(1_000_000).required(),
  cues: Joi.number().integer().min(0).max(1_000_000).required(),
  length: ms.required(),
})

/** When a print of the voice was captured, in ms of its stretch, and its samples a second. */
export const print = Joi.object({
  at: Joi.number().min(0).max(DAY).required(),
  rate: Joi.number().integer().min(8000).max(192_000).required(),
})

/** How much of a stretch counts, in ms. */
export const kept = Joi.object({ kept: ms.required() })

/** Where in the recorded file the stretch's time begins, in ms, for picture and sound; see docs/architecture.md. */
export const offsets = Joi.object({ picture: Joi.number().min(-5000).max(5000), sound: Joi.number().min(-5000).max(5000) }).options({
  presence: 'required',
})

/** Parts of a talk that one edit can name: a talk of three hours has some thousand pauses. */
const MOST_PARTS = 20_000
const visits = Joi.array().items(visit).max(MOST_PARTS).required()

/** Tells a showing from another of the same recording. */
const shortName = Joi.string()
  .pattern(/^[0-9a-z]{1,12}$/)
  .required()

/** What ink is drawn over: a recording, or a slide that is held without one. */
const inkGround = Joi.object({ kind: Joi.valid('stretch', 'still').required() }).when('.kind', {
  is: 'stretch',
  then: Joi.object({ id: uuid }),
  otherwise: Joi.object({ id: Joi.string().min(1).max(200).required() }),
})

const inkChange = Joi.object({ kind: Joi.valid('delete', 'colour', 'shift').required() }).when('.kind', {
  switch: [
    { is: 'colour', then: Joi.object({ colour: Joi.valid(...INK_COLOURS).required() }) },
    {
      is: 'shift',
      then: Joi.object({
        by: Joi.number().integer().min(-DAY).max(DAY).required(),
        most: Joi.object({ earlier: ms.required(), later: ms.required() }),
      }),
    },
  ],
})

/** What Review may do with a programme; see ProgrammeEdit. */
const programmeEditWith = (inside: Joi.Schema | null): Joi.ObjectSchema =>
  Joi.object({
    kind: Joi.valid(
      'cut',
      'drop',
      'reopen',
      'move',
      'repeat',
      'tempo',
      'hold',
      'hush',
      'linger',
      'insert',
      'framing',
      'ink',
      'draw',
      ...(inside === null ? [] : ['all']),
    ).required(),
  }).when('.kind', {
    switch: [
      {
        is: 'cut',
        then: Joi.object({
          parts: Joi.array()
            .items(Joi.object({ from: talkTime, to: talkTime }).options({ presence: 'required' }))
            .min(1)
            .max(MOST_PARTS)
            .required(),
        }),
      },
      { is: 'drop', then: Joi.object({ visits: visits.min(1) }) },
      { is: 'reopen', then: Joi.object({ seam: Joi.string().min(1).max(300).required() }) },
      { is: 'move', then: Joi.object({ visit: visit.required(), before: visit.allow(null).required() }) },
      { is: 'repeat', then: Joi.object({ visit: visit.required(), before: visit.allow(null).required(), name: shortName }) },
      {
        is: 'tempo',
        then: Joi.object({
          visits,
          rate: Joi.object({ num: Joi.number().integer().min(1).max(10_000), den: Joi.number().integer().min(1).max(10_000) })
            .options({ presence: 'required' })
            .required(),
        }),
      },
      { is: 'hold', then: Joi.object({ visit: visit.required(), length: ms.required() }) },
      { is: 'hush', then: Joi.object({ visits }) },
      {
        is: 'linger',
        then: Joi.object({
          visit: visit.required(),
          length: ms.required(),
          step: Joi.number().integer().min(0).max(500).required(),
          of: Joi.object({ stretch: uuid, at: ms.required() }),
        }),
      },
      {
        is: 'insert',
        then: Joi.object({
          slide: uuid,
          version: Joi.number().integer().min(1).required(),
          length: ms.required(),
          before: visit.allow(null).required(),
          name: uuid,
        }),
      },
      { is: 'framing', then: Joi.object({ visits: visits.min(1), framing: framing.allow(null).required() }) },
      {
        is: 'ink',
        then: Joi.object({
          visit: visit.required(),
          strokes: Joi.array().items(uuid.optional()).min(1).max(5000).required(),
          change: inkChange.required(),
        }),
      },
      {
        is: 'draw',
        then: Joi.object({
          ink: Joi.object({ visit: visit.required(), over: inkGround.required(), at, stroke: stroke.required() }).required(),
        }),
      },
      ...(inside === null ? [] : [{ is: 'all', then: Joi.object({ edits: Joi.array().items(inside).min(1).max(200).required() }) }]),
    ],
  })

/** What is done together is not nested. */
export const programmeEdit = programmeEditWith(programmeEditWith(null))

const programmeRevision = Joi.number().integer().min(0).required()
/** An edit, the revision it was made on, and the browser that made it. */
export const programmeChange = Joi.object({ revision: programmeRevision, author: uuid, edit: programmeEdit.required() })
/** Takes another recording of a visit's slide; see UseRequest. */
export const programmeUse = Joi.object({
  revision: programmeRevision,
  author: uuid,
  visit: visit.required(),
  take: uuid,
  showing: visit.required(),
  name: shortName,
})
/** Takes the asking browser's last change back, or takes that back. */
export const programmeBack = Joi.object({ author: uuid, role: Joi.valid('undo', 'redo').required() })
export const programmeReturn = Joi.object({ author: uuid, revision: Joi.number().integer().min(1).required() })
export const versionName = Joi.object({
  revision: Joi.number().integer().min(1).required(),
  name: Joi.string().trim().min(1).max(80).required(),
})

/** A file's name without its ending, as every file system takes it. */
const plainFile = Joi.string()
  .trim()
  .min(1)
  .max(120)
  .pattern(/^[^/\\:*?"<>|\p{Cc}]+$/u)
  .required()
  .messages({ 'string.pattern.base': 'A file name cannot hold / \\ : * ? " < > or |.' })
export const deliveryName = Joi.object({ name: plainFile })

const fieldName = Joi.string().pattern(/^[a-z]{1,20}$/)
/** What of a recipe does not belong to one talk. */
const anyTalk = {
  format: Joi.valid(...FORMATS).default(USUAL_RECIPE.format),
  lines: Joi.valid(...LINES).required(),
  size: Joi.object({
    width: Joi.number().integer().multiple(2).min(160).max(3840).required(),
    height: Joi.number().integer().multiple(2).min(160).max(3840).required(),
    fit: Joi.valid('bars', 'fill').required(),
  })
    .allow(null)
    .default(USUAL_RECIPE.size),
  rate: Joi.valid(...FRAME_RATES).default(USUAL_RECIPE.rate),
  quality: Joi.valid(...QUALITIES).required(),
  bits: Joi.alternatives(
    Joi.object({ kind: Joi.valid('free').required() }),
    Joi.object({ kind: Joi.valid('rate').required(), most: Joi.number().integer().min(100).max(50_000).required() }),
    Joi.object({ kind: Joi.valid('size').required(), most: Joi.number().integer().min(50_000).max(20_000_000_000).required() }),
  ).default(USUAL_RECIPE.bits),
  loudness: Joi.valid(...LOUDNESSES).default(USUAL_RECIPE.loudness),
  timing: Joi.valid(...TIMINGS).default(USUAL_RECIPE.timing),
  each: Joi.valid('talk', 'slide').default(USUAL_RECIPE.each),
  without: Joi.object({ face: Joi.boolean().required(), ink: Joi.boolean().required(), voice: Joi.boolean().required() }).default(
    USUAL_RECIPE.without,
  ),
  name: plainFile,
}
export const recipe = Joi.object({
  ...anyTalk,
  part: Joi.alternatives(
    Joi.object({ kind: Joi.valid('all').required() }),
    Joi.object({ kind: Joi.valid('range').required(), from: talkTime.required(), to: talkTime.greater(Joi.ref('from')).required() }),
    Joi.object({
      kind: Joi.valid('slides').required(),
      slides: Joi.array().items(uuid).min(1).max(5000).unique().required(),
      within: Joi.object({ from: talkTime.required(), to: talkTime.greater(Joi.ref('from')).required() }),
    }),
  ).default(USUAL_RECIPE.part),
  fields: Joi.object().pattern(fieldName, Joi.string().trim().allow('').max(80)).max(20).default(USUAL_RECIPE.fields),
  limit: Joi.object({ kind: Joi.valid('none', 'warn', 'hold').required() })
    .when('.kind', {
      not: 'none',
      then: Joi.object({ limit: ms.min(1000).required() }),
    })
    .required(),
})

/** A recipe to be made, now or at a time. */
export const order = recipe.keys({ starts: Joi.date().iso().allow(null).default(null) })

export const preset = Joi.object({
  name: Joi.string().trim().min(1).max(60).required(),
  preset: Joi.object({ ...anyTalk, limit: Joi.valid('none', 'warn', 'hold').required() }).required(),
})

export const credentials = Joi.object({
  email: Joi.string()
    .email({ tlds: { allow: false } })
    .max(200)
    .lowercase()
    .required(),
  password: Joi.string().min(1).max(200).required(),
})

export const signUp = credentials.keys({
  name: Joi.string().trim().min(1).max(100).required(),
  password: Joi.string().min(12).max(200).required().messages({
    'string.min': 'A password has at least twelve characters.',
  }),
})

export const notesKind = Joi.object({ kind: Joi.valid('notes', 'viewerNotes').required() })

export const newRehearsal = Joi.object({
  started: Joi.date().iso().required(),
  visits: Joi.array()
    .items(Joi.object({ slide: uuid, length: ms.required(), spoken: ms }))
    .min(1)
    .max(5000)
    .required(),
})
