import { database } from '@server/database'
import { retrySending } from '@server/domain'
import { answerForSending } from '@server/http'

export default answerForSending(async (_event, sending, talk) => {
  await database()
    .transaction()
    .execute((q) => retrySending(q, talk, sending))
  return { ok: true }
})
