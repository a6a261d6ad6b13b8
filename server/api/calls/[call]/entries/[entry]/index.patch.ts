import type { Review } from '@core/calls'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { reviewEntry } from '@server/domain'
import { answerForCall, bodyOf, idOf } from '@server/http'

export default answerForCall(async (event, call) => {
  const entry = idOf<'entry'>(event, 'entry')
  const { review, remark } = await bodyOf<{ review: Review; remark: string }>(event, schemas.entryReview)
  return await database()
    .transaction()
    .execute((q) => reviewEntry(q, call, entry, review, remark))
})
