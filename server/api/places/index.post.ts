import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepPlace } from '@server/domain'
import type { PlaceFields } from '@server/domain'
import { answerTo, bodyOf } from '@server/http'

export default answerTo(async (event, person) => {
  const fields = await bodyOf<PlaceFields>(event, schemas.place)
  const id = await database()
    .transaction()
    .execute((q) => keepPlace(q, person.id, null, fields))
  return { id }
})
