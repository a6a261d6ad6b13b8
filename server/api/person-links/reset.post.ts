import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { personLink, resetPassword } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, checkPassword, guarded, signInHere } from '@server/http'

/** Sets another password by the link of a letter; who did is signed in, and nobody else is any more. */
export default answer(async (event) => {
  const { key, password } = await bodyOf<{ key: string; password: string }>(event, schemas.resetByLink, CREDENTIAL_BYTES)
  const { address } = await guarded(event, () => personLink(database(), key))
  checkPassword(password, { name: '', email: address })
  const hashed = await hashPassword(password)
  const person = await database()
    .transaction()
    .execute((q) => resetPassword(q, key, hashed))
  await signInHere(event, person)
  return { ok: true }
})
