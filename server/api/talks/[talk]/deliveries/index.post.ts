import type { Recipe } from '@core/model'
import { schemas } from '@contracts'
import { database } from '@server/database'
import { orderDelivery } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const recipe = await bodyOf<Recipe>(event, schemas.recipe)
  return { id: await database().transaction().execute((q) => orderDelivery(q, talk, recipe)) }
})
