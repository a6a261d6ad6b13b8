import { database } from '@server/database'
import { dropBrought } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  await database()
    .transaction()
    .execute((q) => dropBrought(q, talk, idOf(event, 'import')))
  return { ok: true }
})
