import { sql } from 'kysely'
import type { Queries } from '@server/database'

/** Notes that workers live, and forgets those that have not for a day. */
export async function noteAlive(q: Queries, workers: readonly string[]): Promise<void> {
  if (workers.length > 0) {
    await q
      .insertInto('worker')
      .values(workers.map((id) => ({ id, seen: sql<Date>`now()` })))
      .onConflict((conflict) => conflict.column('id').doUpdateSet({ seen: sql`now()` }))
      .execute()
  }
  await q
    .deleteFrom('worker')
    .where('seen', '<', sql<Date>`now() - interval '1 day'`)
    .execute()
}

/** These workers end by themselves. */
export async function noteLeft(q: Queries, workers: readonly string[]): Promise<void> {
  if (workers.length > 0)
    await q
      .deleteFrom('worker')
      .where('id', 'in', [...workers])
      .execute()
}

/**
 * Workers that hold jobs and have given no sign of life.
 * @param grace for how long, in ms
 * @param living those that are known to live
 */
export async function deadWorkers(q: Queries, grace: number, living: readonly string[]): Promise<readonly string[]> {
  const { rows } = await sql<{ id: string }>`
    select distinct locked_by as id from graphile_worker.jobs
    where locked_by is not null and locked_by <> all(${[...living]}::text[])
      and locked_at < now() - ${grace} * interval '1 millisecond' and not exists (
      select 1 from worker where worker.id = locked_by and worker.seen > now() - ${grace} * interval '1 millisecond')`.execute(q)
  return rows.map(({ id }) => id)
}
