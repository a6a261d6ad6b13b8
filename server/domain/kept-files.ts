import type { Selectable } from 'kysely'
import type { Database, Queries, StretchTable } from '@server/database'
import { addJob } from './jobs'
import { tell } from './events'

/** Rows looked at together. */
const MANY = 200

/** Ready stretches whose files' digests were noted, some at a time. @param since only of takes begun after that; null: all */
export async function* stretchesWithDigests(db: Database, since: Date | null): AsyncGenerator<Selectable<StretchTable>> {
  for (let after = '00000000-0000-0000-0000-000000000000'; ;) {
    const some = await db.selectFrom('stretch').innerJoin('take', 'take.id', 'stretch.take').selectAll('stretch')
      .where('stretch.id', '>', after).where('stretch.state', '=', 'ready').where('raw_digest', 'is not', null)
      .$if(since !== null, (query) => query.where('take.started', '>', since ?? new Date(0))).orderBy('stretch.id').limit(MANY).execute()
    yield* some
    const last = some.at(-1)
    if (last === undefined) return
    after = last.id
  }
}

/** Finished deliveries whose file's digest was noted, some at a time. @param since as above */
export async function* filesWithDigests(db: Database, since: Date | null): AsyncGenerator<{ readonly id: string, readonly talk: string, readonly digest: string }> {
  for (let after = '00000000-0000-0000-0000-000000000000'; ;) {
    const some = await db.selectFrom('delivery').select(['id', 'talk', 'digest']).where('id', '>', after).where('state', '=', 'done').where('digest', 'is not', null)
      .$if(since !== null, (query) => query.where('created', '>', since ?? new Date(0))).orderBy('id').limit(MANY).execute()
    for (const { digest, ...row } of some) if (digest !== null) yield { ...row, digest }
    const last = some.at(-1)
    if (last === undefined) return
    after = last.id
  }
}

/** Digests of what talks were brought, some at a time. */
export async function* assetsKept(db: Database): AsyncGenerator<string> {
  for (let after = ''; ;) {
    const some = await db.selectFrom('asset').select('digest').distinct().where('digest', '>', after).orderBy('digest').limit(MANY).execute()
    for (const { digest } of some) yield digest
    const last = some.at(-1)
    if (last === undefined) return
    after = last.digest
  }
}

/** Has a finished file that is no longer what it was made once more. In one transaction. */
export async function makeFileAgain(q: Queries, talk: string, id: string): Promise<void> {
  const again = await q.updateTable('delivery').set({ state: 'queued', sentence: null, facts: null, digest: null, frames_done: 0, starts: null }).where('id', '=', id).where('state', '=', 'done').returning('place').executeTakeFirst()
  if (again === undefined) return
  await addJob(q, 'deliver', { delivery: id }, `deliver:${id}`, { starts: null, place: again.place })
  await tell(q, { talk, kind: 'delivery', id })
}
