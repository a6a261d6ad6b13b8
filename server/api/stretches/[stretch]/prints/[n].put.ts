import { getQuery, getRouterParam, readRawBody } from 'h3'
import Joi from 'joi'
import { Refusal } from '@core/model'
import { schemas } from '@contracts'
import { database } from '@server/database'
import { keepPrint } from '@server/domain'
import { answerForStretch, parse } from '@server/http'

/** Largest print, in bytes: three seconds at the highest rate of a microphone. */
const MOST = 3 * 192_000 * 2

/** A short print of the voice: its samples, and in the address when it was captured and at which rate. */
export default answerForStretch(async (event, stretch) => {
  const n = parse<number>(Joi.number().integer().min(0).max(1).required(), getRouterParam(event, 'n'))
  const { at, rate } = parse<{ at: number, rate: number }>(schemas.print, getQuery(event))
  const body = await readRawBody(event, false) ?? Buffer.alloc(0)
  if (body.length === 0 || body.length > MOST || body.length % 2 !== 0) throw new Refusal('malformed', 'This is no print of a voice.')
  await keepPrint(database(), stretch, n, { at, rate }, body)
  return { ok: true }
})
