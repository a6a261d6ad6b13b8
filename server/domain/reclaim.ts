import { UNFINISHED, unreachable } from '@core/model'
import type { Database } from '@server/database'
import type { LeavingKind } from '@server/store'

/** Whose space may be reclaimed: nothing refers to it any more. */
export interface Reclaimed {
  readonly takes: number
  readonly talks: number
}

/**
 * Forgets what was thrown away longer ago than it can be brought back: talks, and discarded takes that neither the
 * programme as it is nor an unfinished delivery names. What lies in the store goes afterwards, once no row refers to it.
 * @param grace in days
 */
export async function forgetDiscarded(db: Database, grace: number): Promise<Reclaimed> {
  const before = new Date(Date.now() - grace * 86_400_000)
  return await db.transaction().execute(async (q) => {
    const talks = await q.deleteFrom('talk').where('deleted', '<', before).returning('id').execute()
    const takes = await q.selectFrom('take').select(['id', 'talk']).where('state', '=', 'discarded').where('discarded', '<', before).forUpdate().execute()
    let gone = 0
    for (const take of takes) {
      // A programme and its talk's lock, so that no edit brings the take back meanwhile.
      await q.selectFrom('talk').select('id').where('id', '=', take.talk).forUpdate().execute()
      const stretches = (await q.selectFrom('stretch').select('id').where('take', '=', take.id).execute()).map((row) => row.id)
      const named = await q.selectFrom('programme').innerJoin('talk', 'talk.id', 'programme.talk').leftJoin('delivery', (join) => join
        .onRef('delivery.talk', '=', 'programme.talk').onRef('delivery.programme_revision', '=', 'programme.revision').on('delivery.state', 'in', UNFINISHED))
        .select('programme.value').where('programme.talk', '=', take.talk)
        .where((is) => is.or([is('programme.revision', '=', is.ref('talk.programme_revision')), is('delivery.id', 'is not', null)])).execute()
      const text = JSON.stringify(named.map((row) => row.value))
      if (stretches.some((stretch) => text.includes(stretch))) continue
      await q.deleteFrom('take').where('id', '=', take.id).execute()
      gone += 1
    }
    return { takes: gone, talks: talks.length }
  })
}

/** Which of these ids or digests a table still has. */
export async function stillNamed(db: Database, kind: LeavingKind, names: readonly string[]): Promise<ReadonlySet<string>> {
  if (names.length === 0) return new Set()
  switch (kind) {
    case 'stretch': return new Set((await db.selectFrom('stretch').select('id').where('id', 'in', [...names]).execute()).map((row) => row.id))
    case 'delivery': return new Set((await db.selectFrom('delivery').select('id').where('id', 'in', [...names]).execute()).map((row) => row.id))
    case 'upload': return new Set()
    case 'asset': return new Set((await db.selectFrom('asset').select('digest').where('digest', 'in', [...names]).execute()).map((row) => row.digest))
    default: return unreachable(kind)
  }
}
