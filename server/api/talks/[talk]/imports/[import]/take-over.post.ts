import type { SlidePair } from '@core/match'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { takeOverDeck } from '@server/domain'
import { EDIT_BYTES, answerForTalk, bodyOf, idOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { revision, pairs } = await bodyOf<{ revision: number; pairs: readonly SlidePair[] }>(event, schemas.takeOver, EDIT_BYTES)
  await database()
    .transaction()
    .execute((q) => takeOverDeck(q, talk, idOf(event, 'import'), revision, pairs))
  return { ok: true }
})
