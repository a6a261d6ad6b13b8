import Joi from 'joi'
import { SHARE_LEVELS } from '../screening'
import { ms, uuid } from './bounds'

/** One line of words, such as a name. */
const line = Joi.string().trim().allow('').max(100)

export const shareFields = Joi.object({
  level: Joi.valid(...SHARE_LEVELS).required(),
  presenter: line.required(),
  description: Joi.string().allow('').max(4000).required(),
  handout: Joi.boolean().required(),
  viewerNotes: Joi.boolean().required(),
  film: uuid.allow(null),
  questions: Joi.boolean().required(),
  until: Joi.string().isoDate().allow(null).default(null),
  group: uuid.optional().allow(null).default(null),
  embedOn: Joi.array()
    .max(20)
    .default([])
    .items(
      Joi.string()
        .trim()
        .lowercase()
        .max(200)
        .pattern(/^https?:\/\/[a-z0-9.-]+(:\d{1,5})?$/)
        .messages({ '*': 'A site is named like https://class.example, without what comes behind.' }),
    ),
  reports: Joi.boolean().default(false),
  phrase: Joi.string().trim().min(4).max(200).allow(null),
})

/** Most people of one group, or named by one talk. */
export const MOST_PEOPLE = 1000

/** An address of mail, as it is kept. */
export const mailAddress = Joi.string().trim().lowercase().email({ tlds: false }).max(254)

export const people = Joi.array()
  .max(MOST_PEOPLE)
  .required()
  .unique('address')
  .items(Joi.object({ address: mailAddress.required(), name: line.required() }))
  .messages({ 'array.unique': 'An address stands there twice.', 'string.email': '“{#value}” is no address.' })

export const sharePeople = Joi.object({ people })

export const groupFields = Joi.object({ name: Joi.string().trim().min(1).max(100).required(), members: people })

export const ticketWish = Joi.object({ address: mailAddress.required() })
export const ticket = Joi.object({
  ticket: Joi.string()
    .pattern(/^[A-Za-z0-9_-]{43}$/)
    .required(),
})
export const phraseSaid = Joi.object({ phrase: Joi.string().trim().min(1).max(200).required() })

/** Most links of one talk. */
const MOST_LINKS = 60

export const sharedLinks = Joi.object({
  links: Joi.array()
    .max(MOST_LINKS)
    .required()
    .items(
      Joi.object({
        address: Joi.string()
          .trim()
          .max(2000)
          .uri({ scheme: ['http', 'https'] })
          .required()
          .messages({ '*': 'A link begins with https:// or http://, and is an address that a browser can open.' }),
        title: Joi.string().trim().allow('').max(200).required(),
        during: Joi.object({ from: ms.required(), to: ms.required() }).allow(null).required(),
      }),
    ),
})

export const askRequest = Joi.object({
  at: ms.required(),
  name: line.required(),
  words: Joi.string().trim().min(1).max(2000).required(),
})

export const answerRequest = Joi.object({
  answer: Joi.string().trim().min(1).max(4000).required(),
  open: Joi.boolean().required(),
})

/** Ids that only those know who asked. */
export const ownQuestions = Joi.object({ own: Joi.array().items(uuid.optional()).max(50).required() })

/** Most talks of one series. */
const MOST_TALKS = 200

export const newSeries = Joi.object({ name: Joi.string().trim().min(1).max(100).required() })

export const seriesFields = Joi.object({
  name: Joi.string().trim().min(1).max(100).required(),
  description: Joi.string().allow('').max(4000).required(),
  shelved: Joi.boolean().required(),
  group: uuid.optional().allow(null).default(null),
  talks: Joi.array().max(MOST_TALKS).items(uuid.optional()).unique().required(),
})

export const seriesTalk = Joi.object({ talk: uuid })

export const seriesOff = Joi.object({
  address: mailAddress.required(),
  token: Joi.string().max(64).required(),
})

/** Most parts that one page tells of at a time: five seconds each. */
const MOST_PARTS = 400

const filmPart = Joi.object({ visit: Joi.string().max(200).required(), part: Joi.number().integer().min(0).max(20_000).required() })

export const watchReport = Joi.object({
  begun: Joi.boolean().required(),
  finished: Joi.boolean().required(),
  played: Joi.array().max(MOST_PARTS).items(filmPart).required(),
  back: Joi.array().max(MOST_PARTS).items(filmPart).required(),
  left: filmPart.allow(null).required(),
  stayed: filmPart.allow(null).required(),
})

/** Most talks of the shelf at a time. */
export const SHELF_PART = 24

export const shelfWish = Joi.object({
  find: Joi.string().trim().allow('').max(100).default(''),
  from: Joi.number().integer().min(0).max(1_000_000).default(0),
})
