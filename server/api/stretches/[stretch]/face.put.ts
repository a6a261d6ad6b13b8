import { readRawBody } from 'h3'
import { MOST_PRINT_BYTES, unpackFacePrint } from '@core/camera'
import { Refusal } from '@core/model'
import { keepFacePrint } from '@server/domain'
import { answerForStretch } from '@server/http'

/** A stretch's first pictures, small, with the times at which they were taken. */
export default answerForStretch(async (event, stretch) => {
  const body = await readRawBody(event, false) ?? Buffer.alloc(0)
  if (body.length > MOST_PRINT_BYTES || unpackFacePrint(body) === null) throw new Refusal('malformed', 'This is no print of a face.')
  await keepFacePrint(stretch, body)
  return { ok: true }
})
