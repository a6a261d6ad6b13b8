import type { Recipe } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { orderDelivery } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { starts, ...recipe } = await bodyOf<Recipe & { readonly starts: Date | null }>(event, schemas.order)
  const ids = await database()
    .transaction()
    .execute((q) => orderDelivery(q, talk, recipe, starts))
  return { id: ids[0], ids }
})
