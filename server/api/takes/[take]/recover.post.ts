import { database } from '@server/database'
import { recoverTake } from '@server/domain'
import { answerForTake } from '@server/http'

export default answerForTake(async (_event, take, talk) => {
  await database().transaction().execute((q) => recoverTake(q, talk, take))
  return { ok: true }
})
