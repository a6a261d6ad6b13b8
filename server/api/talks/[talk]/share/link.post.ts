import { database } from '@server/database'
import { renewLink } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk((_event, talk) =>
  database()
    .transaction()
    .execute((q) => renewLink(q, talk)),
)
