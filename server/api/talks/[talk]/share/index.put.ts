import type { ShareChange } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changeShare } from '@server/domain'
import { answerForAccountTalk, bodyOf } from '@server/http'

export default answerForAccountTalk(async (event, talk) => {
  const { phrase, ...fields } = await bodyOf<ShareChange>(event, schemas.shareFields)
  const hashed = phrase == null ? phrase : await hashPassword(phrase)
  return await database()
    .transaction()
    .execute((q) => changeShare(q, talk, fields, hashed))
})
