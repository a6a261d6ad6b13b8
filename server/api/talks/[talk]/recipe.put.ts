import type { Recipe } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { saveRecipe } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  await saveRecipe(database(), talk, await bodyOf<Recipe>(event, schemas.recipe))
  return { ok: true }
})
