import { database } from '@server/database'
import { setCallDeleted } from '@server/domain'
import { answerForCall } from '@server/http'

export default answerForCall(async (_event, call, person) => {
  await setCallDeleted(database(), person.id, call.id, true)
  return { ok: true }
})
