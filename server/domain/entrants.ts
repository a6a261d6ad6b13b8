import { randomUUID } from 'node:crypto'
import type { Selectable } from 'kysely'
import type { PersonNamed } from '@contracts'
import type { EntrantTable, Queries } from '@server/database'
import type { CallRow } from './calls'

export type EntrantRow = Selectable<EntrantTable>

/**
 * Adds somebody to a call who has not begun yet.
 * @returns null when somebody takes part by this address already
 */
export async function addEntrant(
  q: Queries,
  call: Pick<CallRow, 'id' | 'rules_version'>,
  { name, address }: { readonly name: string; readonly address: string | null },
): Promise<string | null> {
  const nothing = { person: null, talk: null, begun: null, invited: null, reminded: null }
  const row = await q
    .insertInto('entrant')
    .values({ id: randomUUID(), call: call.id, name, address, rules_version: call.rules_version, ...nothing })
    .onConflict((conflict) => conflict.columns(['call', 'address']).doNothing())
    .returning('id')
    .executeTakeFirst()
  return row?.id ?? null
}

/** Who takes part in a call by an address. */
export const entrantOfAddress = async (q: Queries, call: string, address: string): Promise<EntrantRow | undefined> =>
  await q.selectFrom('entrant').selectAll().where('call', '=', call).where('address', '=', address).executeTakeFirst()

/** The part of somebody who is listed; they need not have begun. */
export async function listedEntrant(q: Queries, call: CallRow, person: PersonNamed): Promise<EntrantRow | undefined> {
  await addEntrant(q, call, person)
  return await entrantOfAddress(q, call.id, person.address)
}
