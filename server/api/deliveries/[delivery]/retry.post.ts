import { database } from '@server/database'
import { retryDelivery } from '@server/domain'
import { answerForDelivery } from '@server/http'

export default answerForDelivery(async (_event, delivery, talk) => {
  await database()
    .transaction()
    .execute((q) => retryDelivery(q, talk, delivery))
  return { ok: true }
})
