import { getQuery, getRouterParam } from 'h3'
import Joi from 'joi'
import { Refusal } from '@core/model'
import type { StillTimes } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepStill } from '@server/domain'
import { answerForStretch, parse, readCapped } from '@server/http'

/** Largest full-size picture of a window, in bytes, and how many a recording may have. */
const MOST_BYTES = 24_000_000
const MOST = 5000
const PNG = Buffer.from([0x89, 0x50, 0x4e, 0x47])

/** A full-size picture of a window at rest, and in the address from when to when it looked like that. */
export default answerForStretch(async (event, stretch) => {
  const n = parse<number>(Joi.number().integer().min(0).max(MOST).required(), getRouterParam(event, 'n'))
  const times = parse<StillTimes>(schemas.stillTimes, getQuery(event))
  const body = await readCapped(event, MOST_BYTES)
  if (!body.subarray(0, PNG.length).equals(PNG)) throw new Refusal('malformed', 'This is no picture of a window.')
  await keepStill(database(), stretch, n, times, body)
  return { ok: true }
})
