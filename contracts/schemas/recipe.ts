import Joi from 'joi'
import { CAPTIONS_IN_FILE, FORMATS, FRAME_RATES, LINES, LOUDNESSES, QUALITIES, TIMINGS, USUAL_RECIPE } from '@core/model'
import { ms, talkTime, uuid } from './bounds'

/** A file's name without its ending, as every file system takes it. */
export const plainFile = Joi.string()
  .trim()
  .min(1)
  .max(120)
  .pattern(/^[^/\\:*?"<>|\p{Cc}]+$/u)
  .required()
  .messages({ 'string.pattern.base': 'A file name cannot hold / \\ : * ? " < > or |.' })

export const deliveryName = Joi.object({ name: plainFile, exact: Joi.boolean().default(false) })

const fieldName = Joi.string().pattern(/^[a-z]{1,20}$/)

/** What of a recipe does not belong to one talk. */
const anyTalk = {
  format: Joi.valid(...FORMATS).default(USUAL_RECIPE.format),
  lines: Joi.valid(...LINES).required(),
  size: Joi.object({
    width: Joi.number().integer().multiple(2).min(160).max(3840).required(),
    height: Joi.number().integer().multiple(2).min(160).max(3840).required(),
    fit: Joi.valid('bars', 'fill').required(),
  })
    .allow(null)
    .default(USUAL_RECIPE.size),
  rate: Joi.valid(...FRAME_RATES).default(USUAL_RECIPE.rate),
  quality: Joi.valid(...QUALITIES).required(),
  bits: Joi.alternatives(
    Joi.object({ kind: Joi.valid('free').required() }),
    Joi.object({ kind: Joi.valid('rate').required(), most: Joi.number().integer().min(100).max(50_000).required() }),
    Joi.object({ kind: Joi.valid('size').required(), most: Joi.number().integer().min(50_000).max(20_000_000_000).required() }),
  ).default(USUAL_RECIPE.bits),
  loudness: Joi.valid(...LOUDNESSES).default(USUAL_RECIPE.loudness),
  timing: Joi.valid(...TIMINGS).default(USUAL_RECIPE.timing),
  each: Joi.valid('talk', 'slide').default(USUAL_RECIPE.each),
  without: Joi.object({ face: Joi.boolean().required(), ink: Joi.boolean().required(), voice: Joi.boolean().required() }).default(
    USUAL_RECIPE.without,
  ),
  captions: Joi.valid(...CAPTIONS_IN_FILE).default(USUAL_RECIPE.captions),
  name: plainFile,
}

export const recipe = Joi.object({
  ...anyTalk,
  part: Joi.alternatives(
    Joi.object({ kind: Joi.valid('all').required() }),
    Joi.object({ kind: Joi.valid('range').required(), from: talkTime.required(), to: talkTime.greater(Joi.ref('from')).required() }),
    Joi.object({
      kind: Joi.valid('slides').required(),
      slides: Joi.array().items(uuid).min(1).max(5000).unique().required(),
      within: Joi.object({ from: talkTime.required(), to: talkTime.greater(Joi.ref('from')).required() }),
    }),
  ).default(USUAL_RECIPE.part),
  fields: Joi.object().pattern(fieldName, Joi.string().trim().allow('').max(80)).max(20).default(USUAL_RECIPE.fields),
  limit: Joi.object({ kind: Joi.valid('none', 'warn', 'hold').required() })
    .when('.kind', {
      not: 'none',
      then: Joi.object({ limit: ms.min(1000).required() }),
    })
    .required(),
})

/** A recipe to be made, now or at a time. */
export const order = recipe.keys({ starts: Joi.date().iso().allow(null).default(null) })

export const preset = Joi.object({
  name: Joi.string().trim().min(1).max(60).required(),
  preset: Joi.object({ ...anyTalk, limit: Joi.valid('none', 'warn', 'hold').required() }).required(),
})
