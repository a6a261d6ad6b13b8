import type { GroupFields } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changeGroup } from '@server/domain'
import { answerTo, bodyOf, idOf } from '@server/http'

export default answerTo(async (event, person) => {
  const fields = await bodyOf<GroupFields>(event, schemas.groupFields)
  return await database()
    .transaction()
    .execute((q) => changeGroup(q, person.id, idOf(event, 'group'), fields))
})
