import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { sendLinkTo } from '@server/domain'
import { CREDENTIAL_BYTES, answerForCallKey, bodyOf, countLetter, networkOf } from '@server/http'

/** Somebody has lost the link that is theirs. Answers the same whether there is one. */
export default answerForCallKey(async (event, call) => {
  const { address } = await bodyOf<{ address: string }>(event, schemas.linkWish, CREDENTIAL_BYTES)
  await countLetter(networkOf(event), address)
  await database()
    .transaction()
    .execute((q) => sendLinkTo(q, call.key, address))
  return { ok: true }
})
