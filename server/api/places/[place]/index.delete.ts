import { database } from '@server/database'
import { dropPlace } from '@server/domain'
import { answerTo, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  await dropPlace(database(), person.id, idOf<'place'>(event, 'place'))
  return { ok: true }
})
