import Joi from 'joi'
import { INK_REACH } from '@core/ink'

/** Longest time anything here can have: a day. */
export const DAY = 86_400_000

export const MAX_NOTES = 20_000

export const uuid = Joi.string().guid({ version: 'uuidv4' }).required()

export const ms = Joi.number().integer().min(0).max(DAY)

/** A time of the finished talk, in ms: where something is played at another tempo it need not be whole. */
export const talkTime = Joi.number().min(0).max(DAY)

export const fraction = Joi.number().min(INK_REACH.least).max(INK_REACH.most)

export const share = Joi.number().min(0).max(1)

export const digest = Joi.string().pattern(/^[0-9a-f]{64}$/)

export const pixels = Joi.number().integer().min(1).max(20_000)

export const visit = Joi.string().min(1).max(200)
