import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { fillIn } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const filled = await bodyOf<{ fields?: Record<string, string>; cover?: string | null }>(event, schemas.handInFields)
  await database()
    .transaction()
    .execute((q) => fillIn(q, talk, filled))
  return { ok: true }
})
