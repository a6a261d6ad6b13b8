import { getRequestIP } from 'h3'
import { Refusal } from '@core/model'
import { schemas } from '@contracts'
import { database } from '@server/database'
import { signUp } from '@server/domain'
import { answer, bodyOf, countAttempt } from '@server/http'
import { settings } from '@server/settings'

export default answer(async (event) => {
  if (settings().accounts === 'off') throw new Refusal('not-allowed', 'This server works without accounts.')
  const { name, email, password } = await bodyOf<{ name: string, email: string, password: string }>(event, schemas.signUp)
  await countAttempt(getRequestIP(event) ?? 'unknown', email)
  const person = await signUp(database(), name, email, await hashPassword(password))
  await setUserSession(event, { user: { id: person.id } })
  return person
})
