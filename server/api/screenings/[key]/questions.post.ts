import { Refusal } from '@core/model'
import type { AskRequest } from '@contracts'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { ask } from '@server/domain'
import { CREDENTIAL_BYTES, answerByKey, bodyOf, countQuestion, networkOf } from '@server/http'

export default answerByKey(async (event, { talk, mayAsk }) => {
  if (!mayAsk) throw new Refusal('not-allowed', 'Questions are not taken on this page.')
  const request = await bodyOf<AskRequest>(event, schemas.askRequest, CREDENTIAL_BYTES)
  await countQuestion(networkOf(event))
  return await ask(database(), talk, request)
})
