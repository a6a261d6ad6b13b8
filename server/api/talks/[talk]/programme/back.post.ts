import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { answeredChange, takeBack } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { author, role } = await bodyOf<{ author: string; role: 'undo' | 'redo' }>(event, schemas.programmeBack)
  return await answeredChange(database(), talk, author, (q) => takeBack(q, talk, author, role))
})
