import { join } from 'node:path'
import { Refusal } from '@core/model'
import { database } from '@server/database'
import { beginRestoring, broughtArchive } from '@server/domain'
import { answerTo, withFiles } from '@server/http'
import { settings } from '@server/settings'
import { putUnder, uploadFolder } from '@server/store'

export default answerTo((event, person) =>
  withFiles(
    event,
    async (files) => {
      const [file] = files
      if (file === undefined || files.length > 1) throw new Refusal('malformed', 'Bring one archive at a time.')
      return await database()
        .transaction()
        .execute(async (q) => {
          const { talk, id } = await beginRestoring(q, person.id, file)
          await putUnder(file.path, join(uploadFolder(), broughtArchive(id)))
          return { id: talk }
        })
    },
    settings().talkQuota,
  ),
)
