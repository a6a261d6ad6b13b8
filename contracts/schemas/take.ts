import Joi from 'joi'
import { MOST_OPENING_STROKES, MOST_PATH_POINTS } from '@core/ink'
import { MOST_WITH_CAPTURED, TAKE_KINDS } from '@core/model'
import { DAY, STROKE } from '../shapes'
import { fraction, ms, talkTime, uuid, visit } from './bounds'
import { joiOf } from './joi-of'

const stroke = joiOf(STROKE)

const at = ms.required()

export const cue = Joi.object({
  kind: Joi.valid('show', 'ink', 'erase', 'wipe', 'point', 'blank', 'inset', 'mute', 'clip', 'stumble').required(),
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
    { is: 'clip', then: Joi.object({ clip: uuid, place: ms.required(), playing: Joi.boolean().required() }) },
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
  clips: Joi.array()
    .items(Joi.object({ clip: uuid, at: ms.required(), place: ms.required(), playing: Joi.boolean().required() }))
    .max(MOST_WITH_CAPTURED),
  moved: ms,
})

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
  window: Joi.object({
    of: uuid,
    clip: uuid,
    slide: uuid,
    name: Joi.string().allow('').max(120).required(),
    at: ms.required(),
    began: ms.required(),
  }),
})

export const closing = Joi.object({
  chunks: Joi.number().integer().min(0).max(1_000_000).required(),
  cues: Joi.number().integer().min(0).max(1_000_000).required(),
  length: ms.required(),
})

/** When a print of the voice was captured, in ms of its stretch, and its samples a second. */
export const print = Joi.object({
  at: Joi.number().min(0).max(DAY).required(),
  rate: Joi.number().integer().min(8000).max(192_000).required(),
})

/** While a window looked like one of its full-size pictures, in ms of its recording. */
export const stillTimes = Joi.object({ from: ms.required(), until: ms.required().greater(Joi.ref('from')) })

/** How much of a stretch counts, in ms. */
export const kept = Joi.object({ kept: ms.required() })

/** Where in the recorded file the stretch's time begins, in ms, for picture and sound; see docs/architecture.md. */
export const offsets = Joi.object({ picture: Joi.number().min(-5000).max(5000), sound: Joi.number().min(-5000).max(5000) }).options({
  presence: 'required',
})
