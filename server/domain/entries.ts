import { randomUUID } from 'node:crypto'
import { playsAs, takingAt } from '@core/calls'
import type { Taking } from '@core/calls'
import { Refusal } from '@core/model'
import { factsOfDelivery, faultsIn, isReady, judge } from '@core/rules'
import type { FileFacts, RuleLine } from '@core/rules'
import { companyOf } from '@contracts'
import type { EntryView, HandInView } from '@contracts'
import type { EntryTable, Queries } from '@server/database'
import type { Insertable, Selectable } from 'kysely'
import type { CallRow } from './calls'
import { orderDelivery } from './deliveries'
import type { EntrantRow } from './entrants'
import { wantTaken } from './entries-waiting'
import { tell } from './events'
import { finishedDelivery } from './finished-delivery'
import { handInOf } from './hand-ins'
import { databaseNow, termsOf } from './parts'
import { recipeOf } from './talks'

export type EntryRow = Selectable<EntryTable>

/** A talk's part in a call. */
export interface TalkPart {
  readonly entrant: EntrantRow
  readonly call: CallRow
  /** The newest first. */
  readonly entries: readonly EntryRow[]
}

export const entryView = (row: EntryRow): EntryView => ({
  id: row.id,
  state: row.state,
  at: row.at.toISOString(),
  late: row.late,
  file: row.file,
  title: row.title,
  length: row.facts?.length ?? null,
  bytes: row.facts?.bytes ?? null,
  digest: row.digest,
  lines: row.lines,
  companions: row.companions,
  sentence: row.sentence,
  review: row.review,
  remark: row.remark,
  remarkedAt: row.remarked?.toISOString() ?? null,
  brought: row.brought,
  plays: row.facts === null || row.state !== 'taken' ? null : playsAs(row.facts),
})

export const entriesOf = async (q: Queries, entrant: string): Promise<readonly EntryRow[]> =>
  await q.selectFrom('entry').selectAll().where('entrant', '=', entrant).orderBy('number', 'desc').execute()

/** The part in a call that a talk is made for. @throws Refusal `not-found` when it is made for none */
export async function partOfTalk(q: Queries, talk: string): Promise<TalkPart> {
  const entrant = await q.selectFrom('entrant').selectAll().where('talk', '=', talk).executeTakeFirst()
  if (entrant === undefined) throw new Refusal('not-found', 'This talk is not made for a call.')
  const [call, entries] = await Promise.all([
    q.selectFrom('call').selectAll().where('id', '=', entrant.call).executeTakeFirstOrThrow(),
    entriesOf(q, entrant.id),
  ])
  return { entrant, call, entries }
}

/** Whether something is taken at a moment. @param now ms since 1970 */
export const takingFor = ({ call, entries }: TalkPart, now: number): Taking => takingAt(termsOf(call), entries, now)

/** Locks a talk's part, so that of two who hand in at once one comes after the other. */
async function lockedPart(q: Queries, talk: string): Promise<TalkPart> {
  await q.selectFrom('entrant').select('id').where('talk', '=', talk).forUpdate().execute()
  return await partOfTalk(q, talk)
}

function takenOrRefused(part: TalkPart, at: number): { readonly late: boolean } {
  const taking = takingFor(part, at)
  if (taking.kind === 'refused') throw new Refusal('conflict', taking.sentence)
  return taking
}

/** Holds a file of a talk against the rules that it was begun by. @param at ms since 1970 */
export const judgedBy = (view: HandInView, file: FileFacts, at: number): readonly RuleLine[] =>
  view.rules === null ? [] : judge(view.rules, file, companyOf(view, at))

/** What a call does not take of a file, as sentences; null: it takes it. */
export const notTaken = ({ faulty }: CallRow, lines: readonly RuleLine[]): string | null =>
  faulty === 'refused' && !isReady(lines) ? faultsIn(lines).join(' ') : null

/** Adds an entry, and has it taken in as soon as its file is there. */
async function addEntry(
  q: Queries,
  talk: string,
  values: Omit<Insertable<EntryTable>, 'id' | 'title' | 'fields'>,
  id: string,
): Promise<string> {
  const { name, fields } = await q
    .selectFrom('talk')
    .leftJoin('hand_in', 'hand_in.talk', 'talk.id')
    .select(['talk.name', 'hand_in.fields'])
    .where('talk.id', '=', talk)
    .executeTakeFirstOrThrow()
  await q
    .insertInto('entry')
    .values({ ...values, id, title: name, fields: JSON.stringify(fields ?? {}) })
    .execute()
  await tell(q, { talk, kind: 'entry', id })
  return id
}

const UNKNOWN = { digest: null, facts: null, sentence: null, remarked: null } as const

/**
 * Hands a talk in: a file of it that is finished, or one that is made for it as it is now. It counts from this moment. In one transaction.
 * @param delivery null: the file is made
 * @returns the entry's id
 * @throws Refusal `conflict` when nothing is taken or the file does not keep the rules, `over-limit` when it cannot be made
 */
export async function handIn(q: Queries, talk: string, delivery: string | null): Promise<string> {
  const part = await lockedPart(q, talk)
  const now = await databaseNow(q)
  const { late } = takenOrRefused(part, now)
  const entry = { entrant: part.entrant.id, brought: false, state: 'making', at: new Date(now), late, ...UNKNOWN } as const
  if (delivery !== null) {
    const { file, recipe, facts } = await finishedDelivery(q, talk, delivery, 'handed in')
    const faults = notTaken(part.call, judgedBy(await handInOf(q, talk), factsOfDelivery(file, recipe.format, facts), now))
    if (faults !== null) throw new Refusal('conflict', `It does not keep the rules. ${faults}`)
    const id = await addEntry(q, talk, { ...entry, delivery, file }, randomUUID())
    await wantTaken(q, id)
    return id
  }
  const recipe = await recipeOf(q, talk)
  if (recipe === null) throw new Refusal('not-found', 'This talk was deleted.')
  const [made] = await orderDelivery(q, talk, recipe)
  if (made === undefined) throw new Refusal('conflict', 'Nothing is recorded yet that could be handed in.')
  const { file } = await q.selectFrom('delivery').select('file').where('id', '=', made).executeTakeFirstOrThrow()
  return await addEntry(q, talk, { ...entry, delivery: made, file }, randomUUID())
}

/** A file that was recorded elsewhere, as it lies where entries do. */
export interface BroughtEntry {
  readonly id: string
  readonly file: string
  readonly companions: EntryRow['companions']
}

/**
 * Hands in a file that was recorded elsewhere: it is measured by whoever comes to it. In one transaction.
 * @param at when somebody began to send it, in ms since 1970: it counts from then
 * @throws Refusal `conflict` when nothing is taken
 */
export async function handInBrought(q: Queries, talk: string, { id, file, companions }: BroughtEntry, at: number): Promise<string> {
  const part = await lockedPart(q, talk)
  const { late } = takenOrRefused(part, at)
  const entry = { entrant: part.entrant.id, brought: true, state: 'checking', at: new Date(at), late, delivery: null, ...UNKNOWN } as const
  await addEntry(q, talk, { ...entry, file, companions: JSON.stringify(companions) }, id)
  await wantTaken(q, id)
  return id
}
