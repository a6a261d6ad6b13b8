import { sql } from 'kysely'
import { Refusal } from '@core/model'
import type { PeoplePage, PersonChange, PersonRow } from '@contracts'
import type { Queries } from '@server/database'
import { anotherOperator, goesAt, leave } from './account'
import { tell } from './events'
import { bytesByPerson } from './held-bytes'
import { likely } from './likely'
import { usualQuota } from './person-quota'
import { endPlaces } from './signed-in'

/** People that a page shows. */
export const PEOPLE_A_PAGE = 50

const nobody = (): Refusal => new Refusal('not-found', 'There is nobody like that here.')

const accounts = (q: Queries, words: string) =>
  q
    .selectFrom('person')
    .where('guest', '=', false)
    .where('email', 'is not', null)
    .$if(words !== '', (some) =>
      some.where((either) => either.or([either('name', 'ilike', likely(words)), either('email', 'ilike', likely(words))])),
    )

async function rows(q: Queries, words: string, from: number): Promise<readonly PersonRow[]> {
  const found = await accounts(q, words)
    .selectAll('person')
    .select((build) => [
      build
        .selectFrom('talk')
        .select((inner) => inner.fn.countAll<number>().as('count'))
        .whereRef('talk.owner', '=', 'person.id')
        .where('talk.deleted', 'is', null)
        .as('talks'),
      build
        .selectFrom('signed_in')
        .select((inner) => inner.fn.max('signed_in.seen').as('seen'))
        .whereRef('signed_in.person', '=', 'person.id')
        .as('seen'),
    ])
    .orderBy('name')
    .orderBy('id')
    .offset(from)
    .limit(PEOPLE_A_PAGE)
    .execute()
  const bytes = await bytesByPerson(
    q,
    found.map(({ id }) => id),
  )
  return found.map((row) => ({
    id: row.id,
    name: row.name,
    email: row.email ?? '',
    operator: row.operator,
    blocked: row.blocked !== null,
    verified: row.verified !== null,
    goes: goesAt(row.leaving),
    talks: Number(row.talks ?? 0),
    bytes: bytes.get(row.id) ?? 0,
    seen: row.seen?.toISOString() ?? null,
    own: { bytes: row.most_bytes, filmMinutes: row.most_film_minutes, recordings: row.most_recordings },
  }))
}

/**
 * Some of the people with an account, by name.
 * @param words that stand in a name or address; empty: all
 * @param from so many are passed over
 */
export async function peoplePage(q: Queries, words: string, from: number): Promise<PeoplePage> {
  const [people, { count }, invited] = await Promise.all([
    rows(q, words, from),
    accounts(q, words)
      .select((build) => build.fn.countAll<number>().as('count'))
      .executeTakeFirstOrThrow(),
    q
      .selectFrom('person_link')
      .select(['address', 'operator', 'until'])
      .where('kind', '=', 'invite')
      .where('until', '>', sql<Date>`now()`)
      .orderBy('made', 'desc')
      .limit(PEOPLE_A_PAGE)
      .execute(),
  ])
  return {
    people,
    count: Number(count),
    invited: invited.map(({ address, operator, until }) => ({ address, operator, until: until.toISOString() })),
    quota: usualQuota(),
  }
}

/** Who has an account with an address. @throws Refusal `not-found` */
export async function personOfAddress(q: Queries, email: string): Promise<{ readonly id: string; readonly name: string }> {
  const row = await q.selectFrom('person').select(['id', 'name']).where('email', '=', email).where('guest', '=', false).executeTakeFirst()
  if (row === undefined) throw new Refusal('not-found', `Nobody has an account with the address ${email} here.`)
  return row
}

/** The address of somebody's account. @throws Refusal `not-found` */
export async function addressOfPerson(q: Queries, person: string): Promise<string> {
  const row = await q.selectFrom('person').select('email').where('id', '=', person).where('guest', '=', false).executeTakeFirst()
  if (row?.email == null) throw nobody()
  return row.email
}

/**
 * Changes somebody's account. Who is blocked is signed in nowhere any more. In one transaction.
 * @throws Refusal `not-found`; `conflict` when the server would be left without an operator
 */
export async function changePerson(q: Queries, person: string, change: PersonChange): Promise<void> {
  await addressOfPerson(q, person)
  if (change.operator === false || change.blocked === true) await anotherOperator(q, person)
  const { own } = change
  const columns = {
    ...(change.operator === undefined ? {} : { operator: change.operator }),
    ...(change.blocked === undefined ? {} : { blocked: change.blocked ? sql<Date>`coalesce(blocked, now())` : null }),
    ...(change.verified === undefined ? {} : { verified: sql<Date>`coalesce(verified, now())` }),
    ...(own === undefined ? {} : { most_bytes: own.bytes, most_film_minutes: own.filmMinutes, most_recordings: own.recordings }),
  }
  if (Object.keys(columns).length > 0) await q.updateTable('person').set(columns).where('id', '=', person).execute()
  if (change.blocked === true) await endPlaces(q, person, null)
  if (change.goes !== undefined) await leave(q, person, change.goes)
}

/**
 * Gives everything that somebody made to another: talks, series, groups and calls. What is shown to others goes on under the same links.
 * In one transaction.
 * @returns how many talks were handed over
 * @throws Refusal `not-found`, `malformed` when both are the same
 */
export async function handOver(q: Queries, from: string, to: string): Promise<number> {
  if (from === to) throw new Refusal('malformed', 'They have it already.')
  await addressOfPerson(q, from)
  await addressOfPerson(q, to)
  for (const table of ['series', 'viewer_group', 'call'] as const)
    await q.updateTable(table).set({ owner: to }).where('owner', '=', from).execute()
  const talks = await q.updateTable('talk').set({ owner: to }).where('owner', '=', from).returning('id').execute()
  for (const { id } of talks) await tell(q, { talk: id, kind: 'owner', id: null })
  return talks.length
}

/** Takes an invitation back: its link opens nothing any more. */
export async function takeInvitationBack(q: Queries, address: string): Promise<void> {
  await q.deleteFrom('person_link').where('kind', '=', 'invite').where('address', '=', address).execute()
}
