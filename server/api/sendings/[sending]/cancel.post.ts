import { database } from '@server/database'
import { cancelSending } from '@server/domain'
import { answerForSending } from '@server/http'

export default answerForSending(async (_event, sending, talk) => {
  await database()
    .transaction()
    .execute((q) => cancelSending(q, talk, sending))
  return { ok: true }
})
