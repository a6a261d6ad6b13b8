import type { Recipe } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { estimateDelivery } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => await estimateDelivery(database(), talk, await bodyOf<Recipe>(event, schemas.recipe)))
