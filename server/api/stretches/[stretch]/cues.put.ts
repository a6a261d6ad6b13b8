import type { Cue } from '@core/model'
import { schemas } from '@contracts'
import { database } from '@server/database'
import { keepCues } from '@server/domain'
import { answerForStretch, bodyOf } from '@server/http'

export default answerForStretch(async (event, stretch) => {
  const { first, cues } = await bodyOf<{ first: number, cues: Cue[] }>(event, schemas.cueBatch)
  await keepCues(database(), stretch, first, cues)
  return { ok: true }
})
