import { database } from '@server/database'
import { pauseDelivery } from '@server/domain'
import { answerForDelivery } from '@server/http'

export default answerForDelivery(async (_event, delivery, talk) => {
  await database()
    .transaction()
    .execute((q) => pauseDelivery(q, talk, delivery))
  return { ok: true }
})
