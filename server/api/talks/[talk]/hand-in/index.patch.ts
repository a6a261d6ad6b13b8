import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { fillIn, handInOf } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const filled = await bodyOf<{ fields?: Record<string, string>; cover?: string | null }>(event, schemas.handInFields)
  return await database()
    .transaction()
    .execute(async (q) => {
      await fillIn(q, talk, filled)
      return await handInOf(q, talk)
    })
})
