import { database } from '@server/database'
import { broughtDeck } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk((event, talk) =>
  database()
    .transaction()
    .execute((q) => broughtDeck(q, talk, idOf(event, 'import'))),
)
