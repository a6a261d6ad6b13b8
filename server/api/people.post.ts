import { Refusal } from '@core/model'
import { schemas } from '@contracts'
import { database } from '@server/database'
import { signUp } from '@server/domain'
import { CREDENTIAL_BYTES, answer, bodyOf, countAttempt, forgiveAttempt, networkOf, signInHere } from '@server/http'
import { settings } from '@server/settings'

export default answer(async (event) => {
  if (settings().accounts === 'off') throw new Refusal('not-allowed', 'This server works without accounts.')
  const { name, email, password } = await bodyOf<{ name: string, email: string, password: string }>(event, schemas.signUp, CREDENTIAL_BYTES)
  const network = networkOf(event)
  await countAttempt(network, email)
  // Hashed first, so that it takes as long whether there is such an account or not.
  const person = await signUp(database(), name, email, await hashPassword(password))
  await forgiveAttempt(network, email)
  await signInHere(event, person.id)
  return person
})
