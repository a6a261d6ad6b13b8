import type { SendingWish } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { orderSending } from '@server/domain'
import { answerForAccountDelivery, bodyOf } from '@server/http'

export default answerForAccountDelivery(async (event, delivery, talk, person) => {
  const wish = await bodyOf<SendingWish>(event, schemas.sending)
  const id = await database()
    .transaction()
    .execute((q) => orderSending(q, person.id, talk, delivery, wish))
  return { id }
})
