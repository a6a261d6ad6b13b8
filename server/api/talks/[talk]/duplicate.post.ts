import { database } from '@server/database'
import { duplicateTalk } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk(async (_event, talk, person) => ({
  id: await database()
    .transaction()
    .execute((q) => duplicateTalk(q, person.id, talk)),
}))
