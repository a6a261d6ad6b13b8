import { database } from '@server/database'
import { compactHistories, forgetDiscarded, letUntouchedGo, stillNamed } from '@server/domain'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { leave, lyingSince, putBack } from '@server/store'
import type { LeavingKind } from '@server/store'

/** What is brought into the store is referred to within this time, in ms. */
const SETTLED = 86_400_000
/** Names asked about at a time. */
const MANY = 500
const KINDS: readonly LeavingKind[] = ['stretch', 'delivery', 'asset', 'upload', 'stream', 'entry', 'export']

/**
 * Reclaims the space of what nothing refers to any more. Can be repeated and broken off at any point.
 * @param grace days for which what was thrown away can be brought back
 * @param settled how long something must have lain there without being referred to, in ms
 * @returns what went, by kind
 */
async function reclaim(grace: number, settled: number): Promise<Readonly<Record<string, number>>> {
  const db = database()
  const { told, deleted } = await letUntouchedGo(db)
  const { takes, talks, people } = await forgetDiscarded(db, grace)
  const compacted = await compactHistories(db, new Date(Date.now() - settled))
  const gone: Record<string, number> = { told, deleted, takes, talks, people, compacted }
  const before = Date.now() - settled
  for (const kind of KINDS) {
    await putBack(kind)
    const lying = await lyingSince(kind, before)
    gone[kind] = 0
    for (let from = 0; from < lying.length; from += MANY) {
      const some = lying.slice(from, from + MANY)
      const named = await stillNamed(db, kind, some)
      for (const name of some) if (!named.has(name) && (await leave(kind, name, before))) gone[kind] += 1
    }
  }
  return gone
}

export async function reclaimTask(): Promise<void> {
  log.info(await reclaim(settings().graceDays, SETTLED), 'space reclaimed')
}
