import { database } from '@server/database'
import { noteReportSeen } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  await noteReportSeen(database(), talk, idOf(event, 'import'))
  return { ok: true }
})
