import { database } from '@server/database'
import { settleBuilds } from '@server/domain'
import { answerForTalk, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  await settleBuilds(database(), talk, idOf(event, 'import'))
  return { ok: true }
})
