import type { Ms } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { closeStretch } from '@server/domain'
import { answerForStretch, bodyOf } from '@server/http'

export default answerForStretch(async (event, stretch) => {
  const closing = await bodyOf<{ chunks: number; cues: number; length: Ms }>(event, schemas.closing)
  await closeStretch(database(), stretch, closing)
  return { ok: true }
})
