import { Refusal } from '@core/model'
import * as schemas from '@contracts/schemas'
import type { PersonView } from '@contracts'
import { database } from '@server/database'
import { addressesAreShown, personByEmail, writeVerification } from '@server/domain'
import { log } from '@server/log'
import { CREDENTIAL_BYTES, answer, bodyOf, countAttempt, forgiveAttempt, networkOf, signInHere } from '@server/http'

let nobody: Promise<string> | undefined
/** A password that nobody has, checked when there is no such account, so that the answer takes as long. */
const nobodysPassword = (): Promise<string> => (nobody ??= hashPassword(crypto.randomUUID()))

export default answer(async (event): Promise<PersonView> => {
  const { email, password } = await bodyOf<{ email: string; password: string }>(event, schemas.credentials, CREDENTIAL_BYTES)
  const network = networkOf(event)
  await countAttempt(network, email)
  const person = await personByEmail(database(), email)
  const right = await verifyPassword(person?.password ?? (await nobodysPassword()), password)
  if (person === null || !right) {
    log.warn({ network }, 'sign-in refused')
    throw new Refusal('not-signed-in', 'Address and password do not go together. Check both and try again.')
  }
  // Said only to who has the password.
  if (person.blocked) throw new Refusal('not-allowed', 'This account is blocked. Ask whoever runs this server.')
  if (!person.verified && addressesAreShown()) {
    // Theirs may be lost, or the account older than letters are.
    await database()
      .transaction()
      .execute((q) => writeVerification(q, person.id, email))
    throw new Refusal(
      'not-allowed',
      'Open the link in the letter that is on its way to this address first: it shows that the address is yours.',
    )
  }
  log.info({ person: person.id, network }, 'signed in')
  await forgiveAttempt(network, email)
  await signInHere(event, person.id)
  return { id: person.id, name: person.name, email: person.email, operator: person.operator }
})
