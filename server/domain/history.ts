import { Refusal } from '@core/model'
import type { Programme } from '@core/model'
import { changedVisits, merged } from '@core/programme'
import type { ChangeReason } from '@core/programme'
import type { ChangeRole, HistoryView, ProgrammeAnswer } from '@contracts'
import type { Database, Queries } from '@server/database'
import { stretchIdsOf } from './films'
import { areStretchesOf } from './ownership'
import type { ProgrammeChange } from './recordings'
import { programmeAt } from './programme-differences'
import { currentProgramme, saveProgramme } from './programmes'

/** Changes that are listed. */
const LISTED = 200

/** A programme whose talk nobody else changes until the transaction ends. */
async function held(q: Queries, talk: string): Promise<Programme> {
  await q.selectFrom('talk').select('id').where('id', '=', talk).forUpdate().execute()
  return await currentProgramme(q, talk)
}

/** @throws Refusal `not-found` when a programme names a recording that is not its talk's, or was discarded for good */
async function allThere(q: Queries, talk: string, programme: Programme): Promise<void> {
  if (!(await areStretchesOf(q, talk, stretchIdsOf(programme))))
    throw new Refusal('not-found', 'This would bring back a take that was discarded for good. The talk stays as it is.')
}

/**
 * Changes a talk's programme. What was changed elsewhere since `revision` is kept, if it was of other visits. In one transaction.
 * @param revision that the edit was made on
 * @param author the browser that made it
 * @throws Refusal `conflict` when the same visit was changed elsewhere; then nothing is changed
 */
export async function editProgramme(
  q: Queries,
  talk: string,
  revision: number,
  author: string,
  change: ProgrammeChange,
): Promise<Programme> {
  const now = await held(q, talk)
  const base = revision === now.revision ? now : await programmeAt(q, talk, revision)
  const mine = change.apply(base)
  const next = base === now ? mine : merged(base, mine, now)
  await allThere(q, talk, next)
  return await saveProgramme(q, talk, next, change.reason, { author })
}

interface Step {
  readonly revision: number
  readonly reason: ChangeReason
}

/** What a browser can take back, and what it can do again, the next last. */
async function stacksOf(q: Queries, talk: string, author: string): Promise<Readonly<Record<'undo' | 'redo', readonly Step[]>>> {
  const rows = await q
    .selectFrom('programme')
    .select(['revision', 'reason', 'role'])
    .where('talk', '=', talk)
    .where('author', '=', author)
    .orderBy('revision')
    .execute()
  let undo: readonly Step[] = []
  let redo: readonly Step[] = []
  for (const { revision, reason, role } of rows) {
    const step = { revision, reason }
    switch (role) {
      case 'edit':
        undo = [...undo, step]
        redo = []
        break
      case 'undo':
        undo = undo.slice(0, -1)
        redo = [...redo, step]
        break
      case 'redo':
        redo = redo.slice(0, -1)
        undo = [...undo, step]
        break
    }
  }
  return { undo, redo }
}

/**
 * Takes back what a browser did last, or does it again. What others did since stays. In one transaction.
 * @throws Refusal `not-found` when there is nothing to take back, `conflict` when others have changed the same visit since
 */
export async function takeBack(q: Queries, talk: string, author: string, role: Exclude<ChangeRole, 'edit'>): Promise<Programme> {
  const now = await held(q, talk)
  const step = (await stacksOf(q, talk, author))[role].at(-1)
  if (step === undefined)
    throw new Refusal('not-found', role === 'undo' ? 'There is nothing to take back.' : 'There is nothing to do again.')
  const before = step.revision === 1 ? { ...now, pieces: [] } : await programmeAt(q, talk, step.revision - 1)
  const after = await programmeAt(q, talk, step.revision)
  const next = merged(after, before, now)
  await allThere(q, talk, next)
  return await saveProgramme(q, talk, next, step.reason, { author, role, takesBack: step.revision })
}

/** Makes the programme what it was at an earlier revision; that can be taken back like any change. @throws Refusal `not-found` */
export async function returnTo(q: Queries, talk: string, author: string, revision: number): Promise<Programme> {
  const now = await held(q, talk)
  const then = await programmeAt(q, talk, revision)
  await allThere(q, talk, then)
  const next = { ...then, slides: { ...now.slides, ...then.slides }, revision: now.revision }
  return await saveProgramme(q, talk, next, { kind: 'return' }, { author })
}

/**
 * Changes a talk's programme in one transaction.
 * @param author the browser that changes it
 * @returns what a page needs to go on with it
 */
export const answeredChange = (
  db: Database,
  talk: string,
  author: string,
  change: (q: Queries) => Promise<Programme>,
): Promise<ProgrammeAnswer> =>
  db.transaction().execute(async (q) => {
    const programme = await change(q)
    return { programme, history: await historyOf(q, talk, author, programme) }
  })

/** Gives a revision a name, or another one. @throws Refusal `not-found` */
export async function nameVersion(q: Queries, talk: string, revision: number, name: string): Promise<void> {
  await programmeAt(q, talk, revision)
  await q
    .insertInto('named_version')
    .values({ talk, revision, name })
    .onConflict((conflict) => conflict.columns(['talk', 'revision']).doUpdateSet({ name }))
    .execute()
}

/** How a programme came to be as it is. @param author the browser that asks @param current the programme, where it is known */
export async function historyOf(q: Queries, talk: string, author: string, current?: Programme): Promise<HistoryView> {
  const [rows, stacks, now, delivered] = await Promise.all([
    q
      .selectFrom('programme')
      .leftJoin('named_version', (join) =>
        join.onRef('named_version.talk', '=', 'programme.talk').onRef('named_version.revision', '=', 'programme.revision'),
      )
      .select(['programme.revision', 'programme.made', 'programme.reason', 'programme.role', 'programme.length_ms', 'named_version.name'])
      .where('programme.talk', '=', talk)
      .orderBy('programme.revision', 'desc')
      .limit(LISTED)
      .execute(),
    stacksOf(q, talk, author),
    current ?? currentProgramme(q, talk),
    q
      .selectFrom('delivery')
      .select('programme_revision')
      .where('talk', '=', talk)
      .where('state', '=', 'done')
      .where('programme_revision', 'is not', null)
      .orderBy('created', 'desc')
      .executeTakeFirst(),
  ])
  const since = delivered?.programme_revision ?? null
  const last = since === null ? null : await programmeAt(q, talk, since)
  return {
    changes: rows.map(({ revision, made, reason, role, length_ms: length, name }) => ({
      revision,
      made: made.toISOString(),
      reason,
      role,
      length,
      name,
    })),
    undo: stacks.undo.at(-1)?.reason ?? null,
    redo: stacks.redo.at(-1)?.reason ?? null,
    sinceDelivery: last === null ? null : changedVisits(last, now).size,
  }
}
