import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import type { Selectable } from 'kysely'
import { dequal } from 'dequal/lite'
import { Refusal, asId } from '@core/model'
import type { CallCounts, CallFields, CallView, PersonNamed } from '@contracts'
import type { CallTable, Queries } from '@server/database'
import { callAddress } from './entrant-links'
import { isOwnGroup, membersOf } from './groups'
import { newKey } from './link-key'
import { ownTalk } from './ownership'

/** Most calls of one person, those that were taken back included. */
const MOST_CALLS = 1000

const gone = (): Refusal => new Refusal('not-found', 'This call is not there any more.')

export type CallRow = Selectable<CallTable>

/** Those a call is for who are listed, by name; nobody where whoever has the link may come. */
export async function peopleCalled(q: Queries, { id, audience, viewer_group }: CallRow): Promise<readonly PersonNamed[]> {
  switch (audience) {
    case 'link':
      return []
    case 'group':
      return await membersOf(q, viewer_group).execute()
    case 'people':
      return await q
        .selectFrom('call_person')
        .select(['address', 'name'])
        .where('call', '=', id)
        .orderBy('name')
        .orderBy('address')
        .execute()
  }
}

/** How far the people of some calls came. */
async function countsOf(q: Queries, calls: readonly string[]): Promise<ReadonlyMap<string, CallCounts & { readonly earlier: number }>> {
  if (calls.length === 0) return new Map()
  const { rows } = await sql<{ call: string; begun: number; handed_in: number; unseen: number; missing: number; earlier: number }>`
    with counted as (
      select distinct on (entry.entrant) entry.entrant, entry.review from entry join entrant on entrant.id = entry.entrant
        where entrant.call = any(${calls}::uuid[]) and entry.state = 'taken' order by entry.entrant, entry.number desc
    ), listed as (
      select call.id as call, group_member.address from call join group_member on group_member.viewer_group = call.viewer_group
        where call.audience = 'group' and call.id = any(${calls}::uuid[])
      union all
      select call.id, call_person.address from call join call_person on call_person.call = call.id
        where call.audience = 'people' and call.id = any(${calls}::uuid[])
    )
    select call.id as call,
      count(entrant.id) filter (where entrant.begun is not null)::int as begun,
      count(counted.entrant)::int as handed_in,
      count(counted.entrant) filter (where counted.review = 'unseen')::int as unseen,
      count(entrant.id) filter (where entrant.begun is not null and entrant.rules_version < call.rules_version)::int as earlier,
      (select count(*) from listed where listed.call = call.id and not exists (
        select from entrant as own join counted as done on done.entrant = own.id
          where own.call = call.id and own.address = listed.address))::int as missing
    from call left join entrant on entrant.call = call.id left join counted on counted.entrant = entrant.id
    where call.id = any(${calls}::uuid[])
    group by call.id`.execute(q)
  return new Map(rows.map(({ call, handed_in: handedIn, ...counts }) => [call, { ...counts, handedIn }]))
}

async function viewsOf(q: Queries, rows: readonly CallRow[]): Promise<readonly CallView[]> {
  const ids = rows.map(({ id }) => id)
  const counts = await countsOf(q, ids)
  const people =
    ids.length === 0
      ? []
      : await q.selectFrom('call_person').selectAll().where('call', 'in', ids).orderBy('name').orderBy('address').execute()
  return rows.map((row) => {
    const { begun = 0, handedIn = 0, unseen = 0, missing = 0, earlier = 0 } = counts.get(row.id) ?? {}
    return {
      id: row.id,
      link: callAddress(row.key),
      title: row.title,
      asks: row.asks,
      rules: row.rules,
      rulesVersion: row.rules_version,
      until: row.until.toISOString(),
      late: row.late,
      faulty: row.faulty,
      audience: row.audience,
      group: row.viewer_group === null ? null : asId(row.viewer_group),
      people: people.filter(({ call }) => call === row.id).map(({ address, name }) => ({ address, name })),
      accounts: row.accounts,
      address: row.address,
      deck: row.deck,
      made: row.made.toISOString(),
      counts: { begun, handedIn, unseen, missing },
      earlierRules: earlier,
    }
  })
}

/** A person's calls, the newest first. */
export const callsOf = async (q: Queries, owner: string): Promise<readonly CallView[]> =>
  await viewsOf(
    q,
    await q.selectFrom('call').selectAll().where('owner', '=', owner).where('deleted', 'is', null).orderBy('made', 'desc').execute(),
  )

/** A call of a person's own. @throws Refusal `not-found` */
export async function ownCall(q: Queries, owner: string, id: string): Promise<CallRow> {
  const row = await q
    .selectFrom('call')
    .selectAll()
    .where('id', '=', id)
    .where('owner', '=', owner)
    .where('deleted', 'is', null)
    .executeTakeFirst()
  if (row === undefined) throw gone()
  return row
}

export async function callView(q: Queries, row: CallRow): Promise<CallView> {
  const [view] = await viewsOf(q, [row])
  if (view === undefined) throw gone()
  return view
}

/** What a call names is its owner's own. @throws Refusal `not-found` */
async function checkNamed(q: Queries, owner: string, { audience, group, deck }: CallFields): Promise<void> {
  if (audience === 'group' && (group === null || !(await isOwnGroup(q, owner, group))))
    throw new Refusal('not-found', 'This group is not there any more. Choose another.')
  if (deck !== null) await ownTalk(q, [owner], deck)
}

const columnsOf = ({ title, asks, rules, until, late, faulty, audience, group, accounts, address, deck }: CallFields) => ({
  title,
  asks,
  rules: JSON.stringify(rules),
  until: new Date(until),
  late,
  faulty,
  audience,
  viewer_group: audience === 'group' ? group : null,
  accounts,
  address,
  deck,
})

async function putPeople(q: Queries, call: string, { audience, people }: CallFields): Promise<void> {
  await q.deleteFrom('call_person').where('call', '=', call).execute()
  if (audience === 'people' && people.length > 0)
    await q
      .insertInto('call_person')
      .values(people.map(({ address, name }) => ({ call, address, name })))
      .execute()
}

/** Makes a call. In one transaction. @throws Refusal `too-many`, `not-found` when its group or deck is not there */
export async function makeCall(q: Queries, owner: string, fields: CallFields): Promise<CallView> {
  await checkNamed(q, owner, fields)
  const { count } = await q
    .selectFrom('call')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('owner', '=', owner)
    .executeTakeFirstOrThrow()
  if (Number(count) >= MOST_CALLS) throw new Refusal('too-many', `There are ${String(MOST_CALLS)} calls already. Take some back first.`)
  const id = randomUUID()
  await q
    .insertInto('call')
    .values({ id, owner, key: newKey(), ...columnsOf(fields), deleted: null })
    .execute()
  await putPeople(q, id, fields)
  return await callView(q, await ownCall(q, owner, id))
}

/**
 * Changes a call. Who has begun is held to the rules by which they began; its last day is for all. In one transaction.
 * @throws Refusal `not-found`
 */
export async function changeCall(q: Queries, owner: string, id: string, fields: CallFields): Promise<CallView> {
  const before = await ownCall(q, owner, id)
  await checkNamed(q, owner, fields)
  const sameRules = dequal(before.rules, fields.rules)
  await q
    .updateTable('call')
    .set((build) => ({ ...columnsOf(fields), ...(sameRules ? {} : { rules_version: build('rules_version', '+', 1) }) }))
    .where('id', '=', id)
    .execute()
  await putPeople(q, id, fields)
  return await callView(q, await ownCall(q, owner, id))
}

/**
 * Takes a call back, or has it hold again: whoever has begun keeps their talk, what was handed in stays until it is forgotten.
 * @throws Refusal `not-found`
 */
export async function setCallDeleted(q: Queries, owner: string, id: string, deleted: boolean): Promise<void> {
  const changed = await q
    .updateTable('call')
    .set({ deleted: deleted ? sql<Date>`now()` : null })
    .where('id', '=', id)
    .where('owner', '=', owner)
    .executeTakeFirst()
  if (changed.numUpdatedRows === 0n) throw gone()
}
