import Joi from 'joi'
import { TUNES } from '@core/music'
import { HUMS, NOISE_WAYS } from '@core/model'
import { NEW_BACKDROP } from '../shapes'
import { DAY } from '../shapes/bounds'
import { joiOf } from './joi-of'

/** Which of the tunes that ship is wanted; left out: a file comes with it. */
export const musicWanted = Joi.object({ tune: Joi.valid(...TUNES) })

const flag = Joi.boolean().default(false)

/** A treatment of a voice, as an address names it: what is left out is not done. */
export const treatmentAsked = Joi.object({
  noise: Joi.valid(...NOISE_WAYS).default(null),
  hum: Joi.valid(...HUMS).default(null),
  rumble: flag,
  sibilance: flag,
  level: flag,
})

/** A backdrop, as an address names it. */
export const backdropAsked = joiOf(NEW_BACKDROP)
/** A backdrop, and a time of the recording that it is tried on, in ms. */
export const backdropStillAsked = (backdropAsked as Joi.ObjectSchema).keys({ at: Joi.number().min(0).max(DAY).required() })

/** Whether what failed is tried again. */
export const backdropsWanted = Joi.object({ again: Joi.boolean().default(false) })
