import { database } from '@server/database'
import { setDeleted } from '@server/domain'
import { answerForTalk } from '@server/http'

export default answerForTalk(async (_event, talk) => {
  await setDeleted(database(), talk, true)
  return { ok: true }
})
