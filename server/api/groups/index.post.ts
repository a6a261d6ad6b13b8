import type { GroupFields } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { makeGroup } from '@server/domain'
import { answerTo, bodyOf } from '@server/http'

export default answerTo(async (event, person) => {
  const fields = await bodyOf<GroupFields>(event, schemas.groupFields)
  return await database()
    .transaction()
    .execute((q) => makeGroup(q, person.id, fields))
})
