import { database } from '@server/database'
import { forgetRehearsal } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  await forgetRehearsal(database(), talk, idOf(event, 'rehearsal'))
  return { ok: true }
})
