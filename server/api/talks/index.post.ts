import type { Ms } from '@core/model'
import type { StarterName } from '@core/starters'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { createTalk } from '@server/domain'
import { answerTo, bodyOf } from '@server/http'

interface NewTalk {
  readonly name: string
  readonly limit: Ms | null
  readonly starter?: StarterName
}

export default answerTo(async (event, person) => {
  const { name, limit, starter } = await bodyOf<NewTalk>(event, schemas.newTalk)
  return { id: await createTalk(database(), person.id, name, limit, starter ?? null) }
})
