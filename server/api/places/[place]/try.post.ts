import { database } from '@server/database'
import { openPlace, tryPlace } from '@server/domain'
import { answerTo, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  await tryPlace(await openPlace(database(), person.id, idOf<'place'>(event, 'place')))
  return { ok: true }
})
