import Joi from 'joi'
import { TUNES } from '@core/music'
import { HUMS, NOISE_WAYS } from '@core/model'

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
