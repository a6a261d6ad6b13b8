import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { keepPlace } from '@server/domain'
import type { PlaceFields } from '@server/domain'
import { answerTo, bodyOf, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  const place = idOf<'place'>(event, 'place')
  const fields = await bodyOf<PlaceFields>(event, schemas.place)
  await database()
    .transaction()
    .execute((q) => keepPlace(q, person.id, place, fields))
  return { ok: true }
})
