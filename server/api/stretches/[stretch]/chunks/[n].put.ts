import { getRequestHeader, getRouterParam } from 'h3'
import Joi from 'joi'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { keepChunks } from '@server/domain'
import { announcedBytes, answerForStretch, parse, readCapped } from '@server/http'

/** Most bytes that one request may carry. */
const MOST = 32 * 1_048_576

const listed = Joi.array()
  .max(400)
  .items(
    Joi.object({
      bytes: Joi.number().integer().min(0).max(MOST).required(),
      digest: Joi.string()
        .pattern(/^[0-9a-f]{64}$/)
        .required(),
    }),
  )
  .min(1)
  .required()

/** Chunks one after the other from number n on; a header says where each ends: `bytes:digest,bytes:digest`. */
export default answerForStretch(async (event, stretch) => {
  const first = parse<number>(Joi.number().integer().min(0).max(1_000_000).required(), getRouterParam(event, 'n'))
  const header = getRequestHeader(event, 'x-aisle-chunks') ?? ''
  const parts = parse<{ bytes: number; digest: string }[]>(
    listed,
    header.split(',').map((part) => {
      const [bytes, digest] = part.split(':')
      return { bytes, digest }
    }),
  )
  const expected = parts.reduce((sum, part) => sum + part.bytes, 0)
  if (expected > MOST) throw new Refusal('too-large', 'Too much of the recording at once.')
  // Told before it is read: nobody may fill the server's memory.
  if (announcedBytes(event.node.req) !== expected)
    throw new Refusal('malformed', 'A part of the recording was cut short on the way. It is still on this computer and is sent again.')
  const body = await readCapped(event, expected)
  if (body.length !== expected)
    throw new Refusal('malformed', 'A part of the recording was cut short on the way. It is still on this computer and is sent again.')
  let at = 0
  const chunks = parts.map((part, index) => {
    const bytes = body.subarray(at, at + part.bytes)
    at += part.bytes
    return { n: first + index, digest: part.digest, bytes }
  })
  await keepChunks(database(), stretch, chunks)
  return { ok: true }
})
