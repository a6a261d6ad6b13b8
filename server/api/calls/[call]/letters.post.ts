import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { writeToMissing } from '@server/domain'
import { answerForCall, bodyOf } from '@server/http'

/** Invites those who are listed, and reminds those of whom nothing was taken yet. */
export default answerForCall(async (event, call) => {
  const { entrants } = await bodyOf<{ entrants?: readonly string[] }>(event, schemas.callLetters)
  const written = await database()
    .transaction()
    .execute((q) => writeToMissing(q, call, entrants ?? null))
  return { written }
})
