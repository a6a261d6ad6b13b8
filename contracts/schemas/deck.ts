import Joi from 'joi'
import { STARTER_NAMES } from '@core/starters'
import { DECK_EDIT, PLACE, SLIDES } from '../shapes'
import { TALK_ORDERS } from '../views'
import { ms, uuid } from './bounds'
import { joiOf } from './joi-of'

/** Edits of a deck that a page may send. */
export const deckEdit = joiOf(DECK_EDIT)

export const deckChange = Joi.object({ revision: Joi.number().integer().min(0).required(), edit: deckEdit.required() })

export const talkFields = Joi.object({
  name: Joi.string().trim().min(1).max(160),
  limit: ms.min(1000).allow(null),
  /** BCP 47: a language, and what tells it from others. */
  language: Joi.string()
    .pattern(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8}){0,3}$/)
    .max(35),
}).min(1)

export const copySlides = Joi.object({ from: uuid, slides: joiOf(SLIDES).required(), at: joiOf(PLACE).required() })

/** Most talks that come at a time. */
const MOST_CARDS = 500

export const talkWish = Joi.object({
  words: Joi.string().allow('').max(160).default(''),
  order: Joi.valid(...TALK_ORDERS).default('changed'),
  from: Joi.number().integer().min(0).max(1e6).default(0),
  most: Joi.number().integer().min(1).max(MOST_CARDS).default(MOST_CARDS),
})

export const talkWords = Joi.object({ words: Joi.string().allow('').max(160).default('') })

export const newTalk = Joi.object({
  name: Joi.string().trim().min(1).max(160).required(),
  limit: ms.min(1000).allow(null).required(),
  /** A deck to begin from; left out: an empty one. */
  starter: Joi.valid(...STARTER_NAMES),
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

/** Which slides of a deck that was brought are which of the talk's, when it takes their place. */
export const takeOver = Joi.object({
  revision: Joi.number().integer().min(0).required(),
  pairs: Joi.array()
    .items(Joi.object({ slide: uuid, brought: uuid }).options({ presence: 'required' }))
    .max(5000)
    .required(),
})
