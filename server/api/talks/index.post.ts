import type { Ms } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { createTalk } from '@server/domain'
import { answerTo, bodyOf } from '@server/http'

export default answerTo(async (event, person) => {
  const { name, limit } = await bodyOf<{ name: string; limit: Ms | null }>(event, schemas.newTalk)
  return { id: await createTalk(database(), person.id, name, limit) }
})
