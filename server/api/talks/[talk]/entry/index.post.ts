import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { entrantView, handIn, takeEntry } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

/** Hands a talk in: a file of it that is finished, or one that is made for it. */
export default answerForTalk(async (event, talk) => {
  const { delivery } = await bodyOf<{ delivery: string | null }>(event, schemas.entryWish)
  const id = await database()
    .transaction()
    .execute((q) => handIn(q, talk, delivery))
  // Who hands in a finished file looks on; workers may be busy with films. If it is not done here, one of them does it.
  if (delivery !== null) await takeEntry(database(), id).catch(() => undefined)
  return await entrantView(database(), talk)
})
