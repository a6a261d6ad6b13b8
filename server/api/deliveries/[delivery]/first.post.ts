import { database } from '@server/database'
import { putFirst } from '@server/domain'
import { answerForDelivery } from '@server/http'

export default answerForDelivery(async (_event, delivery, talk) => {
  await database()
    .transaction()
    .execute((q) => putFirst(q, talk, delivery))
  return { ok: true }
})
