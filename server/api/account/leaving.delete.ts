import { database } from '@server/database'
import { leave } from '@server/domain'
import { answerTo } from '@server/http'

/** Somebody stays after all. */
export default answerTo(async (_event, person) => {
  await database()
    .transaction()
    .execute((q) => leave(q, person.id, false))
  return { ok: true }
})
