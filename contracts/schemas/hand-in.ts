import Joi from 'joi'
import { AUDIO_CODECS, CAPTION_PLACES, CONTAINERS, FIELD_SIGNS, VIDEO_CODECS } from '@core/rules'
import { fieldsIn } from '@core/plan'
import type { RuleField } from '@core/rules'
import { PLACE_KINDS, SITE_AUDIENCES } from '../hand-in'
import { uuid } from './bounds'
import { plainFile } from './recipe'
import { mailAddress } from './share'

const line = Joi.string().trim().min(1).max(100)
const language = Joi.string().pattern(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/)

/** Bounds of which at least one is there, the lower one first. */
const bounds = (least: number, most: number) =>
  Joi.object({
    least: Joi.number().min(least).max(most),
    most: Joi.number()
      .min(least)
      .max(most)
      .when('least', { is: Joi.exist(), then: Joi.number().min(Joi.ref('least')) }),
  })
    .or('least', 'most')
    .messages({ 'number.min': '{{#label}} is less than it may be.' })

const ratio = Joi.number().integer().min(1).max(10_000).required()
const pixels = Joi.object({ width: ratio, height: ratio })
const some = (values: readonly string[]) =>
  Joi.array()
    .items(Joi.valid(...values))
    .min(1)
    .unique()

const field = Joi.object({
  key: Joi.string()
    .pattern(/^[a-z]{1,20}$/)
    .required(),
  label: line.max(60).required(),
  optional: Joi.boolean(),
  signs: Joi.valid(...FIELD_SIGNS),
  length: bounds(0, 80),
})

/** Fields of a file's name are fields that are asked for, or nobody could fill them in. */
function nameIsKnown(value: { fileName?: string; fields?: readonly RuleField[] }, helpers: Joi.CustomHelpers): unknown {
  const keys = new Set((value.fields ?? []).map(({ key }) => key))
  const missing = fieldsIn(value.fileName ?? '').find((key) => !keys.has(key))
  return missing === undefined
    ? value
    : helpers.message({ custom: `the file name of these rules has the field “${missing}”, and they do not ask for it` })
}

/** Rules as they are read from a file or a desk; see `Rules`. */
export const rules = Joi.object({
  kind: Joi.valid('talk-rules').required().messages({ 'any.only': 'this is no document of rules' }),
  version: Joi.valid(1).required().messages({ 'any.only': 'these rules are of a version that is not known here' }),
  name: line.max(80).required(),
  about: Joi.string().trim().max(400),
  length: bounds(1, 86_400),
  bytes: Joi.number().integer().min(50_000).max(20_000_000_000),
  containers: some(CONTAINERS),
  videoCodecs: some(VIDEO_CODECS),
  audioCodecs: some(AUDIO_CODECS),
  lines: bounds(16, 8640),
  shape: pixels,
  rates: Joi.array().items(Joi.number().min(1).max(240)).min(1).max(20).unique(),
  loudness: bounds(-70, 0),
  fileName: plainFile.optional(),
  captions: Joi.object({ where: Joi.valid(...CAPTION_PLACES).required(), language }),
  transcript: Joi.object({ language }),
  cover: pixels,
  fields: Joi.array().items(field).min(1).max(20).unique('key'),
  until: Joi.string().isoDate(),
  tries: Joi.number().integer().min(1).max(100),
})
  .custom(nameIsKnown)
  .required()

const address = Joi.string()
  .trim()
  .uri({ scheme: ['http', 'https'] })
  .max(500)
  .messages({ '*': 'An address begins with http:// or https://.' })

const filled = Joi.object()
  .pattern(/^[a-z]{1,20}$/, Joi.string().trim().allow('').max(80))
  .max(20)

/** Rules that a talk is to be handed in by, from a file or as they are written; or those that a desk has. */
export const handInRules = Joi.object({ rules: rules.optional(), desk: address }).xor('rules', 'desk')

/** What is filled in for a hand-in. */
export const handInFields = Joi.object({ fields: filled, cover: uuid.optional().allow(null) }).min(1)

export const ruleSet = Joi.object({ rules })

/** Something that is sent: which file, and to whom. */
export const sending = Joi.alternatives(
  Joi.object({ kind: Joi.valid('desk').required() }),
  Joi.object({ kind: Joi.valid('place').required(), place: uuid }),
  Joi.object({
    kind: Joi.valid('site').required(),
    address: address.required(),
    notes: Joi.object({
      title: line.required(),
      description: Joi.string().trim().allow('').max(4000).required(),
      audience: Joi.valid(...SITE_AUDIENCES).required(),
    }).required(),
  }),
)

export const place = Joi.object({
  name: line.max(60).required(),
  kind: Joi.valid(...PLACE_KINDS).required(),
  address: address.required(),
  user: Joi.string().trim().allow('').max(200).required(),
  /** Left out: the word that is kept stays. */
  word: Joi.string().allow('').max(500),
})

/** A letter with a file, or with the link to the talk's page. */
export const fileLetter = Joi.object({
  to: mailAddress.required(),
  with: Joi.valid('file', 'link').required(),
  words: Joi.string().trim().allow('').max(2000).default(''),
})
