import { database } from '@server/database'
import { setCallDeleted } from '@server/domain'
import { answerTo, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  await setCallDeleted(database(), person.id, idOf<'call'>(event, 'call'), false)
  return { ok: true }
})
