import type { H3Event } from 'h3'
import { Refusal } from '@core/model'
import type { PersonView } from '@contracts'
import { countAttempt, forgiveAttempt, networkOf } from './attempts'

/**
 * Has somebody who is signed in say their password again, before what is delicate. A wrong one counts as an attempt to sign in.
 * @param kept its hash
 * @throws Refusal `not-allowed`, `too-many`
 */
export async function checkOwnPassword(event: H3Event, person: PersonView, kept: string, said: string): Promise<void> {
  const [network, email] = [networkOf(event), person.email ?? '']
  await countAttempt(network, email)
  if (!(await verifyPassword(kept, said))) throw new Refusal('not-allowed', 'This is not your password. Nothing was changed.')
  await forgiveAttempt(network, email)
}
