import type { Ms } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepStretch } from '@server/domain'
import { answerForStretch, bodyOf } from '@server/http'

export default answerForStretch(async (event, stretch) => {
  const { kept } = await bodyOf<{ kept: Ms }>(event, schemas.kept)
  await keepStretch(database(), stretch, kept)
  return { ok: true }
})
