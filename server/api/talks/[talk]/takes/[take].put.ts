import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { openTake } from '@server/domain'
import type { NewTake } from '@server/domain'
import { answerForTalk, bodyOf, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const take = await bodyOf<NewTake>(event, schemas.newTake)
  await database()
    .transaction()
    .execute((q) => openTake(q, talk, idOf<'take'>(event, 'take'), take))
  return { ok: true }
})
