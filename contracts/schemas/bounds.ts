import Joi from 'joi'
import * as shapes from '../shapes'
import { joiOf } from './joi-of'

export const uuid = Joi.string().guid({ version: 'uuidv4' }).required()

export const ms = Joi.number().integer().min(0).max(shapes.DAY)

export const talkTime = Joi.number().min(0).max(shapes.DAY)

export const fraction = joiOf(shapes.fraction)

export const visit = joiOf(shapes.VISIT)
