import type { CorrectionsRequest } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { correct, wordsOf } from '@server/domain'
import { EDIT_BYTES, answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const request = await bodyOf<CorrectionsRequest>(event, schemas.correctionsRequest, EDIT_BYTES)
  await database()
    .transaction()
    .execute((q) => correct(q, talk, request))
  return await wordsOf(database(), talk)
})
