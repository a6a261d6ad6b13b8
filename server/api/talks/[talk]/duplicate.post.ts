import { database } from '@server/database'
import { duplicateTalk } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk(async (_event, talk, person) => ({
  id: await database()
    .transaction()
    .execute((q) => duplicateTalk(q, person.id, talk)),
}))
