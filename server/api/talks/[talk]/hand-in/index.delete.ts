import { database } from '@server/database'
import { leaveRules } from '@server/domain'
import { answerForAccountTalk } from '@server/http'

export default answerForAccountTalk(async (_event, talk) => {
  await leaveRules(database(), talk)
  return { ok: true }
})
