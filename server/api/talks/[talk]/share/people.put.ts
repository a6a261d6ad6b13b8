import type { PersonNamed } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changeSharedWith } from '@server/domain'
import { answerForAccountTalk, bodyOf } from '@server/http'

export default answerForAccountTalk(async (event, talk) => {
  const { people } = await bodyOf<{ people: readonly PersonNamed[] }>(event, schemas.sharePeople)
  return await database()
    .transaction()
    .execute((q) => changeSharedWith(q, talk, people))
})
