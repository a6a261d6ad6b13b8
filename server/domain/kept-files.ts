import type { Selectable } from 'kysely'
import type { Database, Queries, StretchTable } from '@server/database'
import { addJob } from './jobs'
import { tell } from './events'

/** Rows looked at together. */
const MANY = 200
/** An id before all others. */
const FIRST_ID = '00000000-0000-0000-0000-000000000000'

/** All rows of a question, some at a time. @param some asks for those behind a key, in its order @param keyOf a row */
async function* inPages<Row>(
  first: string,
  some: (after: string) => Promise<readonly Row[]>,
  keyOf: (row: Row) => string,
): AsyncGenerator<Row> {
  for (let after = first; ;) {
    const rows = await some(after)
    yield* rows
    const last = rows.at(-1)
    if (last === undefined) return
    after = keyOf(last)
  }
}

/** Ready stretches whose files' digests were noted. @param since only of takes begun after that; null: all */
export const stretchesWithDigests = (db: Database, since: Date | null): AsyncGenerator<Selectable<StretchTable>> =>
  inPages(
    FIRST_ID,
    (after) =>
      db
        .selectFrom('stretch')
        .innerJoin('take', 'take.id', 'stretch.take')
        .selectAll('stretch')
        .where('stretch.id', '>', after)
        .where('stretch.state', '=', 'ready')
        .where('raw_digest', 'is not', null)
        .$if(since !== null, (query) => query.where('take.started', '>', since ?? new Date(0)))
        .orderBy('stretch.id')
        .limit(MANY)
        .execute(),
    ({ id }) => id,
  )

/** Finished deliveries whose file's digest was noted. @param since only of those ordered after that; null: all */
export const filesWithDigests = (
  db: Database,
  since: Date | null,
): AsyncGenerator<{ readonly id: string; readonly talk: string; readonly digest: string }> =>
  inPages(
    FIRST_ID,
    (after) =>
      db
        .selectFrom('delivery')
        .select(['id', 'talk', 'digest'])
        .where('id', '>', after)
        .where('state', '=', 'done')
        .where('digest', 'is not', null)
        .$narrowType<{ digest: string }>()
        .$if(since !== null, (query) => query.where('created', '>', since ?? new Date(0)))
        .orderBy('id')
        .limit(MANY)
        .execute(),
    ({ id }) => id,
  )

/** Digests of what talks were brought. */
export const assetsKept = (db: Database): AsyncGenerator<{ readonly digest: string }> =>
  inPages(
    '',
    (after) => db.selectFrom('asset').select('digest').distinct().where('digest', '>', after).orderBy('digest').limit(MANY).execute(),
    ({ digest }) => digest,
  )

/** Has a finished file that is no longer what it was made once more. In one transaction. */
export async function makeFileAgain(q: Queries, talk: string, id: string): Promise<void> {
  const again = await q
    .updateTable('delivery')
    .set({ state: 'queued', sentence: null, facts: null, digest: null, frames_done: 0, starts: null })
    .where('id', '=', id)
    .where('state', '=', 'done')
    .returning('place')
    .executeTakeFirst()
  if (again === undefined) return
  await addJob(q, 'deliver', { delivery: id }, `deliver:${id}`, { starts: null, place: again.place })
  await tell(q, { talk, kind: 'delivery', id })
}
