import { database } from '@server/database'
import { cancelDelivery } from '@server/domain'
import { answerForDelivery } from '@server/http'

export default answerForDelivery(async (_event, delivery, talk) => {
  await cancelDelivery(database(), talk, delivery)
  return { ok: true }
})
