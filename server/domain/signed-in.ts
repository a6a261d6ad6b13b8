import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import type { PersonView, PlaceSignedIn } from '@contracts'
import type { Queries } from '@server/database'

/** How long somebody stays signed in at a place, in days. */
const SIGNED_IN_DAYS = 14
/** It is noted that somebody is there when that was noted so many minutes ago. */
const NOTED_MINUTES = 10

/** Signs a person in at a new place. @param agent what it is, in words @returns its id, known to that browser alone */
export async function signIn(q: Queries, person: string, agent: string): Promise<string> {
  const id = randomUUID()
  await q
    .deleteFrom('signed_in')
    .where('person', '=', person)
    .where('until', '<', sql<Date>`now()`)
    .execute()
  await q
    .insertInto('signed_in')
    .values({ id, person, agent: agent.slice(0, 100), until: sql`now() + make_interval(days => ${SIGNED_IN_DAYS})` })
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
    .select(['person.id', 'person.name', 'person.email', 'person.operator'])
    .select(sql<boolean>`signed_in.seen < now() - make_interval(mins => ${NOTED_MINUTES})`.as('unnoted'))
    .where('signed_in.id', '=', place)
    .where('signed_in.until', '>', sql<Date>`now()`)
    .where('person.blocked', 'is', null)
    .executeTakeFirst()
  if (row === undefined) return null
  const { unnoted, ...person } = row
  if (unnoted)
    await q
      .updateTable('signed_in')
      .set({ seen: sql`now()` })
      .where('id', '=', place)
      .execute()
  return person
}

/** Where somebody is signed in, last seen first. @param here the place that asks */
export async function placesSignedIn(q: Queries, person: string, here: string | null): Promise<readonly PlaceSignedIn[]> {
  const rows = await q
    .selectFrom('signed_in')
    .select(['id', 'agent', 'since', 'seen'])
    .where('person', '=', person)
    .where('until', '>', sql<Date>`now()`)
    .orderBy('seen', 'desc')
    .execute()
  return rows.map(({ id, agent, since, seen }) => ({
    id,
    here: id === here,
    agent,
    since: since.toISOString(),
    seen: seen.toISOString(),
  }))
}

/** Ends a place of somebody's. @returns whether it was theirs */
export async function endPlace(q: Queries, person: string, place: string): Promise<boolean> {
  const { numDeletedRows } = await q.deleteFrom('signed_in').where('id', '=', place).where('person', '=', person).executeTakeFirst()
  return numDeletedRows > 0n
}

/** Ends every place of somebody's but one. @param kept null: none is kept */
export async function endPlaces(q: Queries, person: string, kept: string | null): Promise<void> {
  await q
    .deleteFrom('signed_in')
    .where('person', '=', person)
    .$if(kept !== null, (all) => all.where('id', '!=', kept))
    .execute()
}
