import { database } from '@server/database'
import { renewLink } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk((_event, talk) =>
  database()
    .transaction()
    .execute((q) => renewLink(q, talk)),
)
