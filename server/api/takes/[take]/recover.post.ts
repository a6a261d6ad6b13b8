import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { recoverTake } from '@server/domain'
import { answerForTake, bodyOf } from '@server/http'

export default answerForTake(async (event, take, talk) => {
  const { browser = null } = await bodyOf<{ browser?: string }>(event, schemas.recovering)
  await database()
    .transaction()
    .execute((q) => recoverTake(q, talk, take, browser))
  return { ok: true }
})
