import type { CorrectionRequest } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { correct, wordsOf } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { corrections } = await bodyOf<{ corrections: readonly CorrectionRequest[] }>(event, schemas.correctionsRequest)
  await database()
    .transaction()
    .execute((q) => correct(q, talk, corrections))
  return await wordsOf(database(), talk)
})
