import type { CallFields } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { makeCall } from '@server/domain'
import { answerTo, bodyOf } from '@server/http'

export default answerTo(async (event, person) => {
  const fields = await bodyOf<CallFields>(event, schemas.callFields)
  return await database()
    .transaction()
    .execute((q) => makeCall(q, person.id, fields))
})
