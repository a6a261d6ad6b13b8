import { Refusal } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { leave, passwordOf } from '@server/domain'
import { CREDENTIAL_BYTES, answerTo, bodyOf, countAttempt, forgiveAttempt, networkOf } from '@server/http'
import { settings } from '@server/settings'

/** Somebody leaves with all that they have; until the time of grace is over they can stay after all. */
export default answerTo(async (event, person) => {
  if (settings().accounts === 'off') throw new Refusal('not-allowed', 'This server works without accounts: delete talks one by one.')
  const { password } = await bodyOf<{ password: string | null }>(event, schemas.leaving, CREDENTIAL_BYTES)
  const kept = await passwordOf(database(), person.id)
  if (kept !== null) {
    const [network, email] = [networkOf(event), person.email ?? '']
    await countAttempt(network, email)
    if (!(await verifyPassword(kept, password ?? ''))) throw new Refusal('not-allowed', 'This is not your password. Nothing was changed.')
    await forgiveAttempt(network, email)
  }
  await database()
    .transaction()
    .execute((q) => leave(q, person.id, true))
  return { ok: true }
})
