import { database } from '@server/database'
import { beginRestoring } from '@server/domain'
import { answerTo, withFiles } from '@server/http'
import { settings } from '@server/settings'

export default answerTo((event, person) =>
  withFiles(
    event,
    async (files) => ({
      id: await database()
        .transaction()
        .execute((q) => beginRestoring(q, person.id, files)),
    }),
    settings().talkQuota,
  ),
)
