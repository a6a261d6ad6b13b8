import { sql } from 'kysely'
import type { AccountView } from '@contracts'
import type { Queries } from '@server/database'

/**
 * What each of these talks holds, in bytes: what was brought, recordings as they came, finished files.
 * @param talks a query that names them
 */
const held = (talks: ReturnType<typeof sql>) => sql`
  select talk, sum(bytes)::bigint as bytes from (
    select talk, bytes from asset where talk in (${talks})
    union all
    select take.talk, stretch.bytes from stretch join take on take.id = stretch.take where take.talk in (${talks})
    union all
    select talk, (facts ->> 'bytes')::bigint from delivery where talk in (${talks}) and facts is not null
    union all
    select talk, bytes from talk_export where talk in (${talks})
  ) as parts group by talk`

/** What talks hold, in bytes. @param whose talks: one, or all of a person's, deleted ones that can be brought back included */
export async function bytesHeld(q: Queries, whose: { readonly talk: string } | { readonly owner: string }): Promise<number> {
  const talks = 'talk' in whose ? sql`select ${whose.talk}::uuid` : sql`select id from talk where owner = ${whose.owner}`
  const { rows } = await sql<{ bytes: number }>`
    select coalesce(sum(bytes), 0)::bigint as bytes from (${held(talks)}) as each`.execute(q)
  return rows[0]?.bytes ?? 0
}

/** What all talks of each of these people hold, in bytes. */
export async function bytesByPerson(q: Queries, people: readonly string[]): Promise<ReadonlyMap<string, number>> {
  const talks = sql`select id from talk where owner = any(${[...people]}::uuid[])`
  const { rows } = await sql<{ owner: string; bytes: number }>`
    select owner, sum(bytes)::bigint as bytes from (${held(talks)}) as each join talk on talk.id = each.talk group by owner`.execute(q)
  return new Map(rows.map(({ owner, bytes }) => [owner, bytes]))
}

/** A person's talks that hold most, largest first. */
export async function largestTalks(q: Queries, owner: string, most: number): Promise<AccountView['largest']> {
  const talks = sql`select id from talk where owner = ${owner}`
  const { rows } = await sql<{ talk: string; name: string; bytes: number }>`
    select each.talk, talk.name, each.bytes from (${held(talks)}) as each join talk on talk.id = each.talk
    where each.bytes > 0 order by each.bytes desc, talk.name limit ${most}`.execute(q)
  return rows
}
