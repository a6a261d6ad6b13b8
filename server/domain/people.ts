import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import type { PersonView } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'

/** The one person of a machine without accounts. Fixed, so that a second start finds the same talks. */
const LOCAL = '00000000-0000-4000-8000-000000000001'

const view = (row: { id: string; name: string; email: string | null }): PersonView => ({ id: row.id, name: row.name, email: row.email })

/** The one person of a machine without accounts; made when first asked for. */
export async function localPerson(q: Queries): Promise<PersonView> {
  await q
    .insertInto('person')
    .values({ id: LOCAL, name: 'You', email: null, password: null })
    .onConflict((conflict) => conflict.doNothing())
    .execute()
  return { id: LOCAL, name: 'You', email: null }
}

/** What somebody is called by others; empty on a machine without accounts, where nobody is named. */
export async function publicName(q: Queries, person: string): Promise<string> {
  if (settings().accounts === 'off') return ''
  return (await q.selectFrom('person').select('name').where('id', '=', person).executeTakeFirst())?.name ?? ''
}

/** Makes an account, unless there is one with this address: whoever asked is not told which. @param password hashed already */
export async function signUp(q: Queries, name: string, email: string, password: string): Promise<void> {
  await q
    .insertInto('person')
    .values({ id: randomUUID(), name, email, password })
    .onConflict((conflict) => conflict.doNothing())
    .execute()
}

/** How long somebody stays signed in at a place, in days. */
const SIGNED_IN_DAYS = 14

/** Signs a person in at a new place. @returns its id, known to that browser alone */
export async function signIn(q: Queries, person: string): Promise<string> {
  const id = randomUUID()
  await q
    .deleteFrom('signed_in')
    .where('person', '=', person)
    .where('until', '<', sql<Date>`now()`)
    .execute()
  await q
    .insertInto('signed_in')
    .values({ id, person, until: sql`now() + make_interval(days => ${SIGNED_IN_DAYS})` })
    .execute()
  return id
}

export async function signOut(q: Queries, place: string): Promise<void> {
  await q.deleteFrom('signed_in').where('id', '=', place).execute()
}

/** Who is signed in at a place; null when nobody is, or no longer. */
export async function personSignedIn(q: Queries, place: string): Promise<PersonView | null> {
  const row = await q
    .selectFrom('signed_in')
    .innerJoin('person', 'person.id', 'signed_in.person')
    .select(['person.id', 'person.name', 'person.email'])
    .where('signed_in.id', '=', place)
    .where('signed_in.until', '>', sql<Date>`now()`)
    .executeTakeFirst()
  return row === undefined ? null : view(row)
}

/** A person with the hash of their password, for checking it. */
export async function personByEmail(q: Queries, email: string): Promise<(PersonView & { readonly password: string }) | null> {
  const row = await q.selectFrom('person').selectAll().where('email', '=', email).executeTakeFirst()
  return row?.password == null ? null : { ...view(row), password: row.password }
}
