import { database } from '@server/database'
import { addSharedFiles } from '@server/domain'
import { answerForTalk, withFiles } from '@server/http'

export default answerForTalk((event, talk) =>
  withFiles(event, (files) =>
    database()
      .transaction()
      .execute((q) => addSharedFiles(q, talk, files)),
  ),
)
