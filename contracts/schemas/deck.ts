import Joi from 'joi'
import { TRANSITIONS } from '@core/model'
import { MAX_NOTES, ms, uuid } from './bounds'
import { composition, framing, shape } from './slides'

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

export const notesKind = Joi.object({ kind: Joi.valid('notes', 'viewerNotes').required() })

export const newRehearsal = Joi.object({
  started: Joi.date().iso().required(),
  visits: Joi.array()
    .items(Joi.object({ slide: uuid, length: ms.required(), spoken: ms }))
    .min(1)
    .max(5000)
    .required(),
})
