import { database } from '@server/database'
import { deleteDelivery } from '@server/domain'
import { answerForDelivery } from '@server/http'
import { deliveryFolder, removeTree } from '@server/store'

export default answerForDelivery(async (_event, delivery, talk) => {
  await deleteDelivery(database(), talk, delivery)
  await removeTree(deliveryFolder(delivery))
  return { ok: true }
})
