import { MOST_PRINT_BYTES, unpackVideoFingerprint } from '@core/camera'
import { Refusal } from '@core/model'
import { keepVideoFingerprint } from '@server/domain'
import { answerForStretch, readCapped } from '@server/http'

/** A stretch's first pictures, small, with the times at which they were taken. */
export default answerForStretch(async (event, stretch) => {
  const body = await readCapped(event, MOST_PRINT_BYTES)
  if (unpackVideoFingerprint(body) === null) throw new Refusal('malformed', 'This is no print of a face.')
  await keepVideoFingerprint(stretch, body)
  return { ok: true }
})
