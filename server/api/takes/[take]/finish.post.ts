import { database } from '@server/database'
import { finishTake } from '@server/domain'
import { answerForTake } from '@server/http'

export default answerForTake(async (_event, take, talk) => {
  await database()
    .transaction()
    .execute((q) => finishTake(q, talk, take))
  return { ok: true }
})
