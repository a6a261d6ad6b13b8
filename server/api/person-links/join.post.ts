import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { joinByInvitation, personLink } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, checkPassword, guarded, signInHere } from '@server/http'

/** Who was invited makes their account, and is signed in. */
export default answer(async (event) => {
  const { key, name, password } = await bodyOf<{ key: string; name: string; password: string }>(event, schemas.join, CREDENTIAL_BYTES)
  const { address } = await guarded(event, () => personLink(database(), key))
  checkPassword(password, { name, email: address })
  const hashed = await hashPassword(password)
  const person = await database()
    .transaction()
    .execute((q) => joinByInvitation(q, key, name, hashed))
  await signInHere(event, person)
  return { ok: true }
})
