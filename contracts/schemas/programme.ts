import Joi from 'joi'
import { INK_COLOURS } from '@core/model'
import { DAY, ms, talkTime, uuid, visit } from './bounds'
import { framing } from './slides'
import { at, stroke } from './take'

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
