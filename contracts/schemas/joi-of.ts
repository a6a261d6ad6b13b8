import Joi from 'joi'
import { unreachable } from '@core/model'
import type { AnyShape, Fields } from '../shapes'

const joiOfFields = (fields: Fields): Record<string, Joi.Schema> =>
  Object.fromEntries(Object.entries(fields).map(([name, { shape, optional }]) => [name, optional ? joiOf(shape) : joiOf(shape).required()]))

const joiOfNumber = ({ least, most, whole }: Extract<AnyShape, { kind: 'number' }>): Joi.Schema => {
  const number = Joi.number().min(least).max(most)
  return whole ? number.integer() : number
}

const joiOfText = ({ least, most, pattern }: Extract<AnyShape, { kind: 'text' }>): Joi.Schema => {
  const bounded = Joi.string().max(most)
  const long = least === 0 ? bounded.allow('') : bounded.min(least)
  return pattern === null ? long : long.pattern(pattern)
}

/** The schema of a shape. What is not named in it is refused. */
export function joiOf(shape: AnyShape): Joi.Schema {
  switch (shape.kind) {
    case 'number':
      return joiOfNumber(shape)
    case 'text':
      return joiOfText(shape)
    case 'uuid':
      return Joi.string().guid({ version: 'uuidv4' })
    case 'flag':
      return Joi.boolean()
    case 'word':
      return Joi.valid(...shape.words)
    case 'nullable':
      return joiOf(shape.shape).allow(null)
    case 'list':
      return Joi.array().items(joiOf(shape.of)).min(shape.least).max(shape.most)
    case 'record':
      return Joi.object(joiOfFields(shape.fields)).min(shape.least)
    case 'variants':
      return Joi.object({ kind: Joi.valid(...Object.keys(shape.by)).required() }).when('.kind', {
        switch: Object.entries(shape.by).map(([kind, fields]) => ({ is: kind, then: Joi.object(joiOfFields(fields)) })),
      })
    case 'checked': {
      const { check } = shape
      // It has its shape by then.
      return joiOf(shape.shape).custom((value: unknown, helpers) => {
        const wrong = check(value as never)
        return wrong === null ? value : helpers.message({ custom: wrong })
      })
    }
    default:
      return unreachable(shape)
  }
}
