import Joi from 'joi'
import { BORDERS, LAYOUTS, MOST_PICTURES, MOST_ZOOM, OUTLINES, PLACINGS, REVEALS, THEMES } from '@core/model'
import { digest, pixels, share } from './bounds'

export const framing = Joi.object({
  rect: Joi.object({ x: share, y: share, w: Joi.number().min(0.02).max(1), h: Joi.number().min(0.02).max(1) })
    .options({ presence: 'required' })
    .required(),
  placing: Joi.valid(...PLACINGS).required(),
  outline: Joi.valid(...OUTLINES).required(),
  border: Joi.valid(...BORDERS).required(),
  mirrored: Joi.boolean().required(),
  zoom: Joi.number().min(1).max(MOST_ZOOM).required(),
  centre: Joi.object({ x: share, y: share }).options({ presence: 'required' }).required(),
  off: Joi.boolean().required(),
})

const composedText = Joi.string().max(6000).allow('').required()

export const composition = Joi.object({
  layout: Joi.valid(...LAYOUTS).required(),
  theme: Joi.valid(...THEMES).required(),
  heading: Joi.string().max(400).allow('').required(),
  body: composedText,
  second: composedText,
  pictures: Joi.array()
    .max(MOST_PICTURES)
    .items(
      Joi.object({
        asset: digest.required(),
        size: Joi.object({ width: pixels, height: pixels }).options({ presence: 'required' }).required(),
        alt: Joi.string().max(300).allow('').required(),
      }),
    )
    .required(),
  reveal: Joi.valid(...REVEALS).required(),
})

/** The terms of an aspect ratio, or a page's size; no side five times the other. */
export const shape = Joi.object({ width: Joi.number().min(1).max(20_000), height: Joi.number().min(1).max(20_000) })
  .options({ presence: 'required' })
  .custom((value: { width: number; height: number }, helpers) => {
    const ratio = value.width / value.height
    return ratio > 0.2 && ratio < 5 ? value : helpers.message({ custom: 'Slides cannot be that long or that narrow.' })
  })
