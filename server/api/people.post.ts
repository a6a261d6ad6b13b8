import { Refusal } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { addressesAreShown, signUp } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, checkPassword, countAttempt, networkOf } from '@server/http'
import { settings } from '@server/settings'

/**
 * Answers the same, in the same time, whether there is an account already: who it is for signs in then. Each asking counts as an
 * attempt.
 */
export default answer(async (event) => {
  if (settings().accounts === 'off') throw new Refusal('not-allowed', 'This server works without accounts.')
  const { name, email, password } = await bodyOf<{ name: string; email: string; password: string }>(event, schemas.signUp, CREDENTIAL_BYTES)
  checkPassword(password, { name, email })
  await countAttempt(networkOf(event), email)
  const hashed = await hashPassword(password)
  await database()
    .transaction()
    .execute((q) => signUp(q, { name, email, password: hashed }))
  return { letter: addressesAreShown() }
})
