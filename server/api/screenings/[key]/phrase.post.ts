import { getRouterParam } from 'h3'
import { Refusal } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { phraseMark, phraseOf } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, countPhrase, networkOf, rememberPhrase } from '@server/http'

/** Somebody says the phrase that a talk is opened by. */
export default answer(async (event) => {
  await countPhrase(networkOf(event))
  const { phrase } = await bodyOf<{ phrase: string }>(event, schemas.phraseSaid, CREDENTIAL_BYTES)
  const hashed = await phraseOf(database(), getRouterParam(event, 'key') ?? '')
  if (hashed !== null) {
    if (!(await verifyPassword(hashed, phrase)))
      throw new Refusal('not-allowed', 'That is not the phrase. Look at how it is written, and try again.')
    await rememberPhrase(event, phraseMark(hashed))
  }
  return { ok: true }
})
