import type { CallFields } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changeCall } from '@server/domain'
import { answerForCall, bodyOf } from '@server/http'

export default answerForCall(async (event, call, person) => {
  const fields = await bodyOf<CallFields>(event, schemas.callFields)
  return await database()
    .transaction()
    .execute((q) => changeCall(q, person.id, call.id, fields))
})
