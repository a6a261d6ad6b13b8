import { UNFINISHED, unreachable } from '@core/model'
import type { Programme } from '@core/model'
import type { Database } from '@server/database'
import type { LeavingKind } from '@server/store'
import { programmeAt } from './programme-differences'
import { currentProgramme } from './programmes'

/** Whose space may be reclaimed: nothing refers to it any more. */
export interface Reclaimed {
  readonly takes: number
  readonly talks: number
  readonly people: number
}

/** A worker that was killed leaves its claim; none lasts this long, in ms. */
const CLAIM_KEPT = 7 * 86_400_000

/**
 * Forgets what was thrown away longer ago than it can be brought back: talks, and discarded takes that neither the
 * programme as it is nor an unfinished delivery names. What lies in the store goes afterwards, once no row refers to it.
 * @param grace in days
 */
export async function forgetDiscarded(db: Database, grace: number): Promise<Reclaimed> {
  const before = new Date(Date.now() - grace * 86_400_000)
  // One at a time: a talk takes all its rows with it, and nobody is to wait for all of them.
  let [talks, takes] = [0, 0]
  for (const { id } of await db.selectFrom('talk').select('id').where('deleted', '<', before).execute()) {
    const gone = await db.deleteFrom('talk').where('id', '=', id).where('deleted', '<', before).returning('id').execute()
    talks += gone.length
  }
  await forgetCalls(db, before)
  const people = await forgetPeople(db, before)
  const discarded = await db
    .selectFrom('take')
    .select(['id', 'talk'])
    .where('state', '=', 'discarded')
    .where('discarded', '<', before)
    .execute()
  for (const take of discarded) if (await forgetTake(db, take, before)) takes += 1
  await db
    .deleteFrom('claim')
    .where('since', '<', new Date(Date.now() - CLAIM_KEPT))
    .execute()
  return { takes, talks, people }
}

/**
 * Forgets who left before a moment, with all that is theirs: rows go with them, media afterwards. Letters to them, and their name on lists
 * of others', too.
 */
async function forgetPeople(db: Database, before: Date): Promise<number> {
  const gone = await db.selectFrom('person').select(['id', 'email']).where('leaving', '<', before).execute()
  for (const { id, email } of gone)
    await db.transaction().execute(async (q) => {
      // One talk after the other first: whoever works on one of them is waited for.
      await q.deleteFrom('talk').where('owner', '=', id).execute()
      await q.deleteFrom('person').where('id', '=', id).where('leaving', '<', before).execute()
      if (email === null) return
      await q.deleteFrom('letter').where('recipient', '=', email).execute()
      for (const table of ['group_member', 'share_person', 'call_person', 'watched_by', 'viewer_ticket', 'person_link'] as const)
        await q.deleteFrom(table).where('address', '=', email).execute()
    })
  return gone.length
}

/**
 * Forgets what was handed in for calls that were taken back before a moment. Who has a talk for one finds it by its link as long as it is
 * there; then the call goes, and with it who had nothing else here.
 */
async function forgetCalls(db: Database, before: Date): Promise<void> {
  const gone = db.selectFrom('call').select('id').where('deleted', '<', before)
  const theirs = db.selectFrom('entrant').select('entrant.id').where('call', 'in', gone)
  await db.deleteFrom('entry').where('entrant', 'in', theirs).execute()
  await db.deleteFrom('entrant').where('call', 'in', gone).where('talk', 'is', null).execute()
  await db.deleteFrom('call').where('deleted', '<', before).where('id', 'not in', db.selectFrom('entrant').select('call')).execute()
  await db
    .deleteFrom('person')
    .where('guest', '=', true)
    .where('id', 'not in', db.selectFrom('talk').select('owner'))
    .where('id', 'not in', db.selectFrom('entrant').select('person').where('person', 'is not', null).$narrowType<{ person: string }>())
    .execute()
}

/** Forgets a discarded take unless it was brought back or something still names it. @returns whether it went */
async function forgetTake(db: Database, { id, talk }: { readonly id: string; readonly talk: string }, before: Date): Promise<boolean> {
  return await db.transaction().execute(async (q) => {
    // Its talk's lock, so that no edit brings the take back meanwhile.
    await q.selectFrom('talk').select('id').where('id', '=', talk).forUpdate().execute()
    const still = await q
      .selectFrom('take')
      .select('id')
      .where('id', '=', id)
      .where('state', '=', 'discarded')
      .where('discarded', '<', before)
      .forUpdate()
      .executeTakeFirst()
    if (still === undefined) return false
    const stretches = (await q.selectFrom('stretch').select('id').where('take', '=', id).execute()).map((row) => row.id)
    const made = await q
      .selectFrom('delivery')
      .select('programme_revision as revision')
      .distinct()
      .where('talk', '=', talk)
      .where('state', 'in', UNFINISHED)
      .where('programme_revision', 'is not', null)
      .execute()
    const named: Programme[] = [await currentProgramme(q, talk)]
    for (const { revision } of made) if (revision !== null) named.push(await programmeAt(q, talk, revision))
    const text = JSON.stringify(named)
    if (stretches.some((stretch) => text.includes(stretch))) return false
    await q.deleteFrom('take').where('id', '=', id).execute()
    return true
  })
}

const idsIn = (db: Database, table: 'stretch' | 'delivery' | 'entry' | 'talk_export', ids: readonly string[]) =>
  db.selectFrom(table).select('id').where('id', 'in', ids).execute()

/** Which of these ids or digests a table still has. */
export async function stillNamed(db: Database, kind: LeavingKind, names: readonly string[]): Promise<ReadonlySet<string>> {
  if (names.length === 0) return new Set()
  switch (kind) {
    case 'stretch':
    case 'delivery':
    case 'entry':
      return new Set((await idsIn(db, kind, names)).map((row) => row.id))
    case 'export':
      return new Set((await idsIn(db, 'talk_export', names)).map((row) => row.id))
    case 'stream':
      return new Set(
        (
          await db
            .selectFrom('stream')
            .select('talk')
            .distinct()
            .where('talk', 'in', [...names])
            .execute()
        ).map((row) => row.talk),
      )
    case 'upload':
      return new Set()
    case 'asset':
      return new Set(
        (
          await db
            .selectFrom('asset')
            .select('digest')
            .where('digest', 'in', [...names])
            .execute()
        ).map((row) => row.digest),
      )
    default:
      return unreachable(kind)
  }
}
