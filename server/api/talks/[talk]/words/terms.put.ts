import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { setTerms, wordsOf } from '@server/domain'
import { answerForTalk, bodyOf } from '@server/http'

export default answerForTalk(async (event, talk) => {
  const { terms } = await bodyOf<{ terms: readonly string[] }>(event, schemas.termsRequest)
  await setTerms(database(), talk, terms)
  return await wordsOf(database(), talk)
})
