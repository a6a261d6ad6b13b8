import { database } from '@server/database'
import { leaveRules } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk(async (_event, talk) => {
  await leaveRules(database(), talk)
  return { ok: true }
})
