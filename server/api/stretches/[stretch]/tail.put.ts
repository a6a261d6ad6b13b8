import { getQuery } from 'h3'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepTail } from '@server/domain'
import { answerForStretch, parse, samplesSent } from '@server/http'

/** Largest tail, in bytes: more than two minutes at twice the usual rate of a microphone. */
const MOST = 24_000_000

/** What was said last in a stretch that was cut off: its samples, and in the address when it begins and at which rate. */
export default answerForStretch(async (event, stretch) => {
  const { at, rate } = parse<{ at: number; rate: number }>(schemas.print, getQuery(event))
  const body = await samplesSent(event, MOST, 'This is no piece of a voice.')
  await keepTail(database(), stretch, { at, rate }, body)
  return { ok: true }
})
