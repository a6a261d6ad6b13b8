import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { setOffsets } from '@server/domain'
import { answerForStretch, bodyOf } from '@server/http'

export default answerForStretch(async (event, stretch) => {
  await setOffsets(database(), stretch, await bodyOf<{ picture: number; sound: number }>(event, schemas.offsets))
  return { ok: true }
})
