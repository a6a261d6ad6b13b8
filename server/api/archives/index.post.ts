import { database } from '@server/database'
import { accountArchives, orderAccountArchives } from '@server/domain'
import { answerTo } from '@server/http'

export default answerTo(async (_event, person) => {
  await database()
    .transaction()
    .execute((q) => orderAccountArchives(q, person.id))
  return await accountArchives(database(), person.id)
})
