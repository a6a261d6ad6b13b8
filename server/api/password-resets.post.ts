import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { writeReset } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, countLetter, networkOf } from '@server/http'

/** Somebody does not know their password any more. Answers the same whether there is such an account. */
export default answer(async (event) => {
  const { email } = await bodyOf<{ email: string }>(event, schemas.addressOnly, CREDENTIAL_BYTES)
  await countLetter(networkOf(event), email)
  await database()
    .transaction()
    .execute((q) => writeReset(q, email))
  return { ok: true }
})
