import { MOST_PRINT_BYTES, unpackFacePrint } from '@core/camera'
import { Refusal } from '@core/model'
import { keepFacePrint } from '@server/domain'
import { answerForStretch, readCapped } from '@server/http'

/** A stretch's first pictures, small, with the times at which they were taken. */
export default answerForStretch(async (event, stretch) => {
  const body = await readCapped(event, MOST_PRINT_BYTES)
  if (unpackFacePrint(body) === null) throw new Refusal('malformed', 'This is no print of a face.')
  await keepFacePrint(stretch, body)
  return { ok: true }
})
