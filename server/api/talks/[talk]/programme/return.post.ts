import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { answeredChange, returnTo } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { author, revision } = await bodyOf<{ author: string; revision: number }>(event, schemas.programmeReturn)
  return await answeredChange(database(), talk, author, (q) => returnTo(q, talk, author, revision))
})
