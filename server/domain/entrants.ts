import { randomUUID } from 'node:crypto'
import type { Selectable } from 'kysely'
import type { PersonNamed } from '@contracts'
import type { EntrantTable, Queries } from '@server/database'
import type { CallRow } from './calls'

export type EntrantRow = Selectable<EntrantTable>

/** Adds people to a call who have not begun yet. @returns their ids; somebody who takes part by their address already is left out */
export async function addEntrants(
  q: Queries,
  call: Pick<CallRow, 'id' | 'rules_version'>,
  people: readonly { readonly name: string; readonly address: string | null }[],
): Promise<readonly string[]> {
  if (people.length === 0) return []
  const nothing = { person: null, talk: null, begun: null, invited: null, reminded: null }
  const rows = await q
    .insertInto('entrant')
    .values(
      people.map(({ name, address }) => ({
        id: randomUUID(),
        call: call.id,
        name,
        address,
        rules_version: call.rules_version,
        ...nothing,
      })),
    )
    .onConflict((conflict) => conflict.columns(['call', 'address']).doNothing())
    .returning('id')
    .execute()
  return rows.map(({ id }) => id)
}

/** Who takes part in a call by an address. */
export const entrantOfAddress = async (q: Queries, call: string, address: string): Promise<EntrantRow | undefined> =>
  await q.selectFrom('entrant').selectAll().where('call', '=', call).where('address', '=', address).executeTakeFirst()

/** The part of somebody who is listed; they need not have begun. */
export async function listedEntrant(q: Queries, call: CallRow, person: PersonNamed): Promise<EntrantRow | undefined> {
  await addEntrants(q, call, [person])
  return await entrantOfAddress(q, call.id, person.address)
}
