import type { RunThrough } from '@core/pace'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepRehearsal } from '@server/domain'
import { EDIT_BYTES, answerForTalk, bodyOf, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const run = await bodyOf<RunThrough & { started: Date }>(event, schemas.newRehearsal, EDIT_BYTES)
  await keepRehearsal(database(), talk, idOf(event, 'rehearsal'), run)
  return { ok: true }
})
