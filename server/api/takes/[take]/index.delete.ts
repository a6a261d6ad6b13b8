import { database } from '@server/database'
import { discardTake } from '@server/domain'
import { answerForTake } from '@server/http'

export default answerForTake(async (_event, take, talk) => {
  await database()
    .transaction()
    .execute((q) => discardTake(q, talk, take))
  return { ok: true }
})
