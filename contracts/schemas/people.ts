import Joi from 'joi'

export const credentials = Joi.object({
  email: Joi.string()
    .email({ tlds: { allow: false } })
    .max(200)
    .lowercase()
    .required(),
  password: Joi.string().min(1).max(200).required(),
})

export const signUp = credentials.keys({
  name: Joi.string().trim().min(1).max(100).required(),
  password: Joi.string().min(12).max(200).required().messages({
    'string.min': 'A password has at least twelve characters.',
  }),
})
