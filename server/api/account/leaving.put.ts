import { Refusal } from '@core/model'
import * as schemas from '@contracts/schemas'
import { database } from '@server/database'
import { leave, passwordOf } from '@server/domain'
import { CREDENTIAL_BYTES, answerTo, bodyOf, checkOwnPassword } from '@server/http'
import { settings } from '@server/settings'

/** Somebody leaves with all that they have; until the time of grace is over they can stay after all. */
export default answerTo(async (event, person) => {
  if (settings().accounts === 'off') throw new Refusal('not-allowed', 'This server works without accounts: delete talks one by one.')
  const { password } = await bodyOf<{ password: string | null }>(event, schemas.leaving, CREDENTIAL_BYTES)
  const kept = await passwordOf(database(), person.id)
  if (kept !== null) await checkOwnPassword(event, person, kept, password ?? '')
  await database()
    .transaction()
    .execute((q) => leave(q, person.id, true))
  return { ok: true }
})
