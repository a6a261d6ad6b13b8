import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { answerOf, returnTo } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { author, revision } = await bodyOf<{ author: string; revision: number }>(event, schemas.programmeReturn)
  return await database()
    .transaction()
    .execute(async (q) => await answerOf(q, talk, author, await returnTo(q, talk, author, revision)))
})
