import type { Queries } from '@server/database'
import { addJob } from './jobs'

/** Before anything else that waits: who hands in looks on. A place is a small integer. */
const BEFORE_ALL = -30_000

/** Has an entry taken in by whoever comes to it first. */
export const wantTaken = (q: Queries, entry: string): Promise<void> =>
  addJob(q, 'take-entry', { entry }, `take-entry:${entry}`, { starts: null, place: BEFORE_ALL })

/** Has entries looked at that wait for a file: it is finished, or never will be. */
export async function lookAtEntriesOf(q: Queries, delivery: string): Promise<void> {
  const waiting = await q.selectFrom('entry').select('id').where('delivery', '=', delivery).where('state', '=', 'making').execute()
  for (const { id } of waiting) await wantTaken(q, id)
}
