import type { ShareFields } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changeShare } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const fields = await bodyOf<ShareFields>(event, schemas.shareFields)
  return await database()
    .transaction()
    .execute((q) => changeShare(q, talk, fields))
})
