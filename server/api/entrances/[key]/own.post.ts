import { Refusal } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { enterByLink } from '@server/domain'
import { CREDENTIAL_BYTES, answerForCallKey, bodyOf, countWrongKey, networkOf, rememberPart } from '@server/http'

/** Somebody brings the link that is theirs. */
export default answerForCallKey(async (event, call) => {
  const { token } = await bodyOf<{ token: string }>(event, schemas.ownLink, CREDENTIAL_BYTES)
  try {
    await rememberPart(event, await enterByLink(database(), call.key, token))
  } catch (error) {
    if (error instanceof Refusal && error.code === 'not-found') await countWrongKey(networkOf(event))
    throw error
  }
  return { ok: true }
})
