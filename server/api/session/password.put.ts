import { Refusal } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { changePassword, passwordOf } from '@server/domain'
import { CREDENTIAL_BYTES, answerTo, bodyOf, checkOwnPassword, checkPassword, placeOf } from '@server/http'

/** Somebody takes another password: every other place where they were signed in is so no longer. */
export default answerTo(async (event, person) => {
  const { old, password } = await bodyOf<{ old: string; password: string }>(event, schemas.passwordChange, CREDENTIAL_BYTES)
  checkPassword(password, { name: person.name, email: person.email ?? '' })
  const kept = await passwordOf(database(), person.id)
  if (kept === null) throw new Refusal('not-allowed', 'This account has no password: it is opened by your provider.')
  await checkOwnPassword(event, person, kept, old)
  const [hashed, here] = await Promise.all([hashPassword(password), placeOf(event)])
  await database()
    .transaction()
    .execute((q) => changePassword(q, person.id, here ?? '', hashed))
  return { ok: true }
})
