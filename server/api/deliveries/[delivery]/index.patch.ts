import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { renameDelivery } from '@server/domain'
import { answerForDelivery, bodyOf } from '@server/http'

export default answerForDelivery(async (event, delivery, talk) => {
  const { name, exact } = await bodyOf<{ name: string; exact: boolean }>(event, schemas.deliveryName)
  await database()
    .transaction()
    .execute((q) => renameDelivery(q, talk, delivery, name, exact))
  return { ok: true }
})
