import { getQuery, getRouterParam } from 'h3'
import Joi from 'joi'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepFingerprint } from '@server/domain'
import { answerForStretch, parse, samplesSent } from '@server/http'

/** Largest print, in bytes: three seconds at the highest rate of a microphone. */
const MOST = 3 * 192_000 * 2

/** A short print of the voice: its samples, and in the address when it was captured and at which rate. */
export default answerForStretch(async (event, stretch) => {
  const n = parse<number>(Joi.number().integer().min(0).max(1).required(), getRouterParam(event, 'n'))
  const { at, rate } = parse<{ at: number; rate: number }>(schemas.print, getQuery(event))
  const body = await samplesSent(event, MOST, 'This is no print of a voice.')
  await keepFingerprint(database(), stretch, n, { at, rate }, body)
  return { ok: true }
})
