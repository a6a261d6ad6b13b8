import Joi from 'joi'
import { SHARE_LEVELS } from '../screening'
import { ms, uuid } from './bounds'

/** One line of words, such as a name. */
const line = Joi.string().trim().allow('').max(100)

export const shareFields = Joi.object({
  level: Joi.valid(...SHARE_LEVELS).required(),
  presenter: line.required(),
  description: Joi.string().allow('').max(4000).required(),
  handout: Joi.boolean().required(),
  viewerNotes: Joi.boolean().required(),
  film: uuid.allow(null),
  questions: Joi.boolean().required(),
})

/** Most links of one talk. */
const MOST_LINKS = 60

export const sharedLinks = Joi.object({
  links: Joi.array()
    .max(MOST_LINKS)
    .required()
    .items(
      Joi.object({
        address: Joi.string()
          .trim()
          .max(2000)
          .uri({ scheme: ['http', 'https'] })
          .required()
          .messages({ '*': 'A link begins with https:// or http://, and is an address that a browser can open.' }),
        title: Joi.string().trim().allow('').max(200).required(),
        during: Joi.object({ from: ms.required(), to: ms.required() }).allow(null).required(),
      }),
    ),
})

export const askRequest = Joi.object({
  at: ms.required(),
  name: line.required(),
  words: Joi.string().trim().min(1).max(2000).required(),
})

export const answerRequest = Joi.object({
  answer: Joi.string().trim().min(1).max(4000).required(),
  open: Joi.boolean().required(),
})

/** Ids that only those know who asked. */
export const ownQuestions = Joi.object({ own: Joi.array().items(uuid.optional()).max(50).required() })
