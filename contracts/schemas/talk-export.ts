import Joi from 'joi'
import { EXPORT_KINDS } from '../talk-export'

export const exportWish = Joi.object({
  kind: Joi.valid(...EXPORT_KINDS).required(),
  lines: Joi.valid(480, 720, 1080).default(720),
  deliveries: Joi.boolean().default(false),
})

export const exportOfKind = Joi.object({ kind: Joi.valid(...EXPORT_KINDS).required() })
