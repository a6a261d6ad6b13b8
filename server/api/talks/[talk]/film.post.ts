import { database } from '@server/database'
import { beginFilm } from '@server/domain'
import { answerForTalk, withFiles } from '@server/http'

export default answerForTalk((event, talk) =>
  withFiles(event, async (files) => ({
    id: await database()
      .transaction()
      .execute((q) => beginFilm(q, talk, files)),
  })),
)
