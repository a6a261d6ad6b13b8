import { database } from '@server/database'
import { addSharedFiles } from '@server/domain'
import { answerForAccountTalk, withFiles } from '@server/http'

export default answerForAccountTalk((event, talk) =>
  withFiles(event, (files) =>
    database()
      .transaction()
      .execute((q) => addSharedFiles(q, talk, files)),
  ),
)
