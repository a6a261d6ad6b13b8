import * as schemas from '@contracts/schemas'
import type { WireEdit } from '@contracts'
import { database } from '@server/database'
import { editDeck } from '@server/domain'
import { EDIT_BYTES, answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { revision, edit } = await bodyOf<{ revision: number; edit: WireEdit }>(event, schemas.deckChange, EDIT_BYTES)
  return await database()
    .transaction()
    .execute((q) => editDeck(q, talk, revision, edit))
})
