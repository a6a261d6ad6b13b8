import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { Queries } from '@server/database'
import { isListed } from './access'
import { sendLetter } from './letters'
import { addressOf } from './shares'
import { digestOfTicket, newTicket } from './ticket'

/** So long it can be used, in minutes by the database's clock. */
const MINUTES = 60

/**
 * Writes to somebody who says that a talk is for them, if it is. Whoever asks is not told. In one transaction.
 * @param key of the talk's page
 */
export async function writeTicket(q: Queries, key: string, address: string): Promise<void> {
  await q
    .deleteFrom('viewer_ticket')
    .where('until', '<', sql<Date>`now() - interval '1 day'`)
    .execute()
  const found = await isListed(q, key, address)
  if (found === null) return
  const { name, owner } = await q.selectFrom('talk').select(['name', 'owner']).where('id', '=', found.talk).executeTakeFirstOrThrow()
  const ticket = newTicket()
  await q
    .insertInto('viewer_ticket')
    .values({
      digest: digestOfTicket(ticket),
      talk: found.talk,
      address,
      until: sql`now() + make_interval(mins => ${MINUTES})`,
      used: null,
    })
    .execute()
  await sendLetter(q, owner, {
    recipient: address,
    subject: `To watch: ${name}`,
    body:
      `Somebody asked to watch “${name}” by this address. If it was you, this link lets you in, once and within the hour:\n\n` +
      // Behind the sign of a fragment: it reaches no server's log, and programs that open links in letters do not use it up.
      `${addressOf(key)}#ticket=${ticket}\n\n` +
      `From then on your browser is known for two weeks. If it was not you, do nothing: nobody gets in without this letter.\n`,
  })
}

/** Takes a ticket in. It is good once. @returns whose address it was sent to @throws Refusal `not-allowed` */
export async function useTicket(q: Queries, key: string, ticket: string): Promise<string> {
  const row = await q
    .updateTable('viewer_ticket')
    .set({ used: sql`now()` })
    .where('digest', '=', digestOfTicket(ticket))
    .where('used', 'is', null)
    .where('until', '>', sql<Date>`now()`)
    .where('talk', 'in', (inner) => inner.selectFrom('share').select('talk').where('key', '=', key))
    .returning('address')
    .executeTakeFirst()
  if (row === undefined)
    throw new Refusal('not-allowed', 'This link was used before, or is over an hour old. Have another sent to your address.')
  return row.address
}
