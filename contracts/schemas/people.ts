import Joi from 'joi'

const email = Joi.string()
  .email({ tlds: { allow: false } })
  .max(200)
  .lowercase()
  .required()
const newPassword = Joi.string().min(12).max(200).required().messages({
  'string.min': 'A password has at least twelve characters.',
})
const name = Joi.string().trim().min(1).max(100).required()
/** Of a link, as it was made. */
const key = Joi.string()
  .pattern(/^[A-Za-z0-9_-]{43}$/)
  .required()
  .messages({ 'string.pattern.base': 'this link is not whole. Copy all of it from the letter' })

export const credentials = Joi.object({ email, password: Joi.string().min(1).max(200).required() })

export const signUp = Joi.object({ name, email, password: newPassword })

export const addressOnly = Joi.object({ email })

export const linkKey = Joi.object({ key })

export const join = Joi.object({ key, name, password: newPassword })

export const resetByLink = Joi.object({ key, password: newPassword })

export const passwordChange = Joi.object({ old: Joi.string().min(1).max(200).required(), password: newPassword })

/** Who leaves says their password again; who has none signs in by a provider. */
export const leaving = Joi.object({ password: Joi.string().max(200).allow(null).required() })

export const invitation = Joi.object({ email, operator: Joi.boolean().required() })

const most = (largest: number) => Joi.number().integer().min(0).max(largest).allow(null).required()

export const personChange = Joi.object({
  operator: Joi.boolean(),
  blocked: Joi.boolean(),
  verified: Joi.valid(true),
  goes: Joi.boolean(),
  own: Joi.object({ bytes: most(1e15), filmMinutes: most(1e6), recordings: most(1000) }),
}).min(1)

export const peopleWish = Joi.object({
  words: Joi.string().allow('').max(100).default(''),
  from: Joi.number().integer().min(0).max(1e6).default(0),
})
