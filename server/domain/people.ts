import { randomUUID } from 'node:crypto'
import { Refusal } from '@core/model'
import type { PersonView } from '@contracts'
import type { Queries } from '@server/database'

/** The one person of a machine without accounts. Fixed, so that a second start finds the same talks. */
const LOCAL = '00000000-0000-4000-8000-000000000001'

const view = (row: { id: string, name: string, email: string | null }): PersonView => ({ id: row.id, name: row.name, email: row.email })

/** The one person of a machine without accounts; made when first asked for. */
export async function localPerson(q: Queries): Promise<PersonView> {
  await q.insertInto('person').values({ id: LOCAL, name: 'You', email: null, password: null })
    .onConflict((conflict) => conflict.doNothing()).execute()
  return { id: LOCAL, name: 'You', email: null }
}

/** @param password hashed already @throws Refusal `conflict` when the address has an account */
export async function signUp(q: Queries, name: string, email: string, password: string): Promise<PersonView> {
  const id = randomUUID()
  const added = await q.insertInto('person').values({ id, name, email, password }).onConflict((conflict) => conflict.doNothing()).executeTakeFirst()
  if (added.numInsertedOrUpdatedRows === 0n) throw new Refusal('conflict', 'There is an account with this address already. Sign in instead.')
  return { id, name, email }
}

export async function personById(q: Queries, id: string): Promise<PersonView | null> {
  const row = await q.selectFrom('person').select(['id', 'name', 'email']).where('id', '=', id).executeTakeFirst()
  return row === undefined ? null : view(row)
}

/** A person with the hash of their password, for checking it. */
export async function personByEmail(q: Queries, email: string): Promise<(PersonView & { readonly password: string }) | null> {
  const row = await q.selectFrom('person').selectAll().where('email', '=', email).executeTakeFirst()
  return row?.password == null ? null : { ...view(row), password: row.password }
}
