import { database } from '@server/database'
import { beginImport } from '@server/domain'
import { answerForTalk, receiveFiles } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const files = await receiveFiles(event)
  return { id: await database().transaction().execute((q) => beginImport(q, talk, files)) }
})
