import { getRequestIP } from 'h3'
import { Refusal } from '@core/model'
import { schemas } from '@contracts'
import { database } from '@server/database'
import { personByEmail } from '@server/domain'
import { answer, bodyOf, countAttempt, forgiveAttempts } from '@server/http'

/** Checked when there is no such account, so that the answer takes as long. */
const NOBODY = '$scrypt$n=16384,r=8,p=1$c2FsdHNhbHRzYWx0c2FsdA$0000000000000000000000000000000000000000000'

export default answer(async (event) => {
  const { email, password } = await bodyOf<{ email: string, password: string }>(event, schemas.credentials)
  const from = getRequestIP(event) ?? 'unknown'
  await countAttempt(from, email)
  const person = await personByEmail(database(), email)
  const right = await verifyPassword(person?.password ?? NOBODY, password).catch(() => false)
  if (person === null || !right) throw new Refusal('not-signed-in', 'Address and password do not go together. Check both and try again.')
  await forgiveAttempts(from, email)
  await setUserSession(event, { user: { id: person.id } })
  return { id: person.id, name: person.name, email: person.email }
})
