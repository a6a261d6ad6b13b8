import Joi from 'joi'
import { PROGRAMME_EDIT, SHOWING_NAME, VISIT } from '../shapes'
import { uuid } from './bounds'
import { joiOf } from './joi-of'

/** What Review may do with a programme. */
export const programmeEdit = joiOf(PROGRAMME_EDIT)

const programmeRevision = Joi.number().integer().min(0).required()

/** An edit, the revision it was made on, and the browser that made it. */
export const programmeChange = Joi.object({ revision: programmeRevision, author: uuid, edit: programmeEdit.required() })

/** Takes another recording of a visit's slide; see UseRequest. */
export const programmeUse = Joi.object({
  revision: programmeRevision,
  author: uuid,
  visit: joiOf(VISIT).required(),
  take: uuid,
  showing: joiOf(VISIT).required(),
  name: joiOf(SHOWING_NAME).required(),
})

/** Takes the asking browser's last change back, or takes that back. */
export const programmeBack = Joi.object({ author: uuid, role: Joi.valid('undo', 'redo').required() })

export const programmeReturn = Joi.object({ author: uuid, revision: Joi.number().integer().min(1).required() })

export const versionName = Joi.object({
  revision: Joi.number().integer().min(1).required(),
  name: Joi.string().trim().min(1).max(80).required(),
})
