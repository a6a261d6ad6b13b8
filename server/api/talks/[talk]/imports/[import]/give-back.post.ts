import { database } from '@server/database'
import { giveBackDeck } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  await database()
    .transaction()
    .execute((q) => giveBackDeck(q, talk, idOf(event, 'import')))
  return { ok: true }
})
