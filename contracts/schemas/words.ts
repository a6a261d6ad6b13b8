import Joi from 'joi'
import { CAPTION_KINDS, MOST_CORRECTIONS, TRANSCRIPT_KINDS } from '../words'
import { uuid } from './bounds'

/** No stretch is longer, in ms. */
const LONGEST = 24 * 3_600_000
const MOST_TERMS = 500

const correction = Joi.object({
  stretch: uuid,
  from: Joi.number().integer().min(0).max(LONGEST).required(),
  until: Joi.number().integer().greater(Joi.ref('from')).max(LONGEST).required(),
  text: Joi.string().allow('').max(2000).required(),
})
export const correctionsRequest = Joi.object({
  corrections: Joi.array().items(correction).min(1).max(MOST_CORRECTIONS).required(),
  brought: Joi.boolean().default(false),
})
export const termsRequest = Joi.object({ terms: Joi.array().items(Joi.string().trim().min(1).max(100)).max(MOST_TERMS).required() })
export const captionsQuery = Joi.object({ kind: Joi.valid(...CAPTION_KINDS).required() })
export const transcriptQuery = Joi.object({
  kind: Joi.valid(...TRANSCRIPT_KINDS).required(),
  tidied: Joi.boolean().default(true),
  pictures: Joi.boolean().default(false),
})
