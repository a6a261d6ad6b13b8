import { database } from '@server/database'
import { bringBackTake } from '@server/domain'
import { answerForTake } from '@server/http'

export default answerForTake(async (_event, take, talk) => {
  await database()
    .transaction()
    .execute((q) => bringBackTake(q, talk, take))
  return { ok: true }
})
