import { database } from '@server/database'
import { deleteGroup } from '@server/domain'
import { answerTo, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  await deleteGroup(database(), person.id, idOf(event, 'group'))
  return { ok: true }
})
