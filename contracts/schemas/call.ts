import Joi from 'joi'
import { LATE_WAYS, REVIEWS } from '@core/calls'
import { ADDRESS_WISHES, CALL_AUDIENCES } from '../call'
import { uuid } from './bounds'
import { rules } from './hand-in'
import { mailAddress, people } from './share'

const name = Joi.string().trim().min(1).max(100).required()
/** Opaque words of a link. */
const token = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{20,120}$/)
  .required()

export const callFields = Joi.object({
  title: Joi.string().trim().min(1).max(160).required(),
  asks: Joi.string().trim().allow('').max(4000).required(),
  rules,
  until: Joi.string().isoDate().required().messages({ '*': 'Say the last day, and until when on it.' }),
  late: Joi.valid(...LATE_WAYS).required(),
  faulty: Joi.valid(...LATE_WAYS).required(),
  audience: Joi.valid(...CALL_AUDIENCES).required(),
  group: uuid
    .optional()
    .allow(null)
    .default(null)
    .when('audience', { is: 'group', then: Joi.invalid(null).messages({ 'any.invalid': 'Choose the group that is asked.' }) }),
  people: people.optional().default([]),
  accounts: Joi.boolean().required(),
  address: Joi.valid(...ADDRESS_WISHES).required(),
  deck: uuid.optional().allow(null).default(null),
})

/** Somebody begins a talk for a call. */
export const callBegin = Joi.object({ name, address: mailAddress.optional().allow(null).default(null) })
export const ownLink = Joi.object({ token })
export const linkWish = Joi.object({ address: mailAddress.required() })

/** What is handed in: a finished file; null: one that is made for it. @see `EntrantView` */
export const entryWish = Joi.object({ delivery: uuid.optional().allow(null).default(null) })

export const entryReview = Joi.object({
  review: Joi.valid(...REVIEWS).required(),
  remark: Joi.string().trim().allow('').max(4000).default(''),
})

/** Whom letters of a call go to; left out: everybody whom they concern. */
export const callLetters = Joi.object({ entrants: Joi.array().items(uuid.optional()).max(2000).unique() })

export const entriesWish = Joi.object({
  pattern: Joi.string().trim().min(1).max(200).default('{number}-{name}'),
  entries: Joi.string()
    .pattern(/^[0-9a-f-]{36}(,[0-9a-f-]{36}){0,1999}$/)
    .empty(''),
})
