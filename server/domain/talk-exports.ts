import { randomUUID } from 'node:crypto'
import type { Selectable } from 'kysely'
import { Refusal, asId } from '@core/model'
import type { Ms } from '@core/model'
import type { ExportKind, ExportWish, TalkExportView } from '@contracts'
import type { Queries, TalkExportTable } from '@server/database'
import { tell } from './events'
import { addJob, removeJob } from './jobs'
import { roomInQuota } from './quotas'
import { firstName } from './talks'

type Row = Selectable<TalkExportTable>

const jobOf = (id: string): string => `make-export:${id}`

/** What stands behind a talk's name in the name of a file, its ending included. */
const ENDINGS: Readonly<Record<ExportKind, string>> = {
  bundle: '-without-internet.zip',
  'small-bundle': '-small.zip',
  shown: '-as-shown.pdf',
  'narrated-deck': '-narrated.pptx',
  archive: '-archive.zip',
}

/** What a talk is now: its deck and its programme. */
interface TalkVersion {
  readonly talk_revision: number
  readonly programme_revision: number
}

const versionOf = async (q: Queries, talk: string): Promise<TalkVersion & { readonly name: string }> => {
  const { revision, ...row } = await q
    .selectFrom('talk')
    .select(['name', 'revision', 'programme_revision'])
    .where('id', '=', talk)
    .executeTakeFirstOrThrow()
  return { ...row, talk_revision: revision }
}

/** What is made of a talk to be taken along, in the order in which it was ordered. */
export async function talkExports(q: Queries, talk: string): Promise<readonly TalkExportView[]> {
  const [now, rows] = await Promise.all([
    versionOf(q, talk),
    q.selectFrom('talk_export').selectAll().where('talk', '=', talk).orderBy('made').execute(),
  ])
  return rows.map((row) => ({
    id: asId(row.id),
    kind: row.kind,
    lines: row.lines,
    deliveries: row.deliveries,
    state: row.state,
    share: row.share,
    file: row.file,
    bytes: row.bytes,
    length: row.length_ms,
    sentence: row.sentence,
    current: row.talk_revision === now.talk_revision && row.programme_revision === now.programme_revision,
    made: row.made.toISOString(),
  }))
}

/**
 * Has something made of a talk to be taken along; what was made of that kind before is there until then. In one transaction.
 * @throws Refusal `conflict` when there is nothing to make it of, `too-large` when there is no room
 */
export async function orderExport(q: Queries, talk: string, { kind, lines, deliveries }: ExportWish): Promise<void> {
  const now = await versionOf(q, talk)
  const slide = await q.selectFrom('slide').select('id').where('talk', '=', talk).limit(1).executeTakeFirst()
  if (slide === undefined) throw new Refusal('conflict', 'This talk has no slides yet. Bring a deck or write some in Prepare.')
  await roomInQuota(q, talk, 0)
  const { id } = await q
    .insertInto('talk_export')
    .values({
      id: randomUUID(),
      talk,
      kind,
      lines,
      deliveries,
      file: `${firstName(now.name)}${ENDINGS[kind]}`,
      bytes: null,
      length_ms: null,
      talk_revision: null,
      programme_revision: null,
      sentence: null,
    })
    .onConflict((conflict) =>
      conflict.columns(['talk', 'kind']).doUpdateSet((build) => ({
        lines,
        deliveries,
        state: 'queued',
        share: 0,
        sentence: null,
        file: build.ref('excluded.file'),
        turn: build('talk_export.turn', '+', 1),
      })),
    )
    .returning('id')
    .executeTakeFirstOrThrow()
  await addJob(q, 'make-export', { export: id }, jobOf(id))
  await tell(q, { talk, kind: 'export', id })
}

const ofKind = async (q: Queries, talk: string, kind: ExportKind): Promise<Row> => {
  const row = await q.selectFrom('talk_export').selectAll().where('talk', '=', talk).where('kind', '=', kind).executeTakeFirst()
  if (row === undefined) throw new Refusal('not-found', 'Nothing of that kind was made of this talk.')
  return row
}

/** A file that is there, also while it is made anew. @throws Refusal `not-found` when it is not */
export async function finishedExport(q: Queries, talk: string, kind: ExportKind): Promise<{ readonly id: string; readonly file: string }> {
  const { id, file, bytes } = await ofKind(q, talk, kind)
  if (bytes === null) throw new Refusal('not-found', 'This file is not there yet.')
  return { id, file }
}

/** Takes one away, or has the making of it stop. In one transaction. @returns its id */
export async function removeExport(q: Queries, talk: string, kind: ExportKind): Promise<string> {
  const { id } = await ofKind(q, talk, kind)
  await q.deleteFrom('talk_export').where('id', '=', id).execute()
  await removeJob(q, jobOf(id))
  await tell(q, { talk, kind: 'export', id })
  return id
}

/** One that is to be made, with what it is made of. */
export interface ExportToMake extends TalkVersion {
  readonly id: string
  readonly talk: string
  readonly kind: ExportKind
  readonly lines: ExportWish['lines']
  readonly deliveries: boolean
  readonly turn: number
  readonly name: string
}

/** Takes one up; null when nobody wants it any more. */
export async function exportToMake(q: Queries, id: string): Promise<ExportToMake | null> {
  const row = await q
    .updateTable('talk_export')
    .set({ state: 'making' })
    .where('id', '=', id)
    .where('state', 'in', ['queued', 'making'])
    .returning(['id', 'talk', 'kind', 'lines', 'deliveries', 'turn'])
    .executeTakeFirst()
  if (row === undefined) return null
  await tell(q, { talk: row.talk, kind: 'export', id })
  return { ...row, ...(await versionOf(q, row.talk)) }
}

const turnOf = (q: Queries, { id, turn }: Pick<ExportToMake, 'id' | 'turn'>) =>
  q.updateTable('talk_export').where('id', '=', id).where('turn', '=', turn).where('state', '=', 'making')

/** Whether one that is being made is still wanted. */
export async function isExportWanted(q: Queries, { id, turn }: Pick<ExportToMake, 'id' | 'turn'>): Promise<boolean> {
  const row = await q
    .selectFrom('talk_export')
    .select('id')
    .where('id', '=', id)
    .where('turn', '=', turn)
    .where('state', '=', 'making')
    .executeTakeFirst()
  return row !== undefined
}

/** Notes how much of one is done, 0 to 1. @returns whether it is still wanted */
export async function noteExportShare(q: Queries, made: ExportToMake, share: number): Promise<boolean> {
  const { numUpdatedRows } = await turnOf(q, made).set({ share }).executeTakeFirst()
  if (numUpdatedRows > 0n) await tell(q, { talk: made.talk, kind: 'export', id: made.id })
  return numUpdatedRows > 0n
}

/** What is known of a file once it is made. */
export interface MadeExport {
  readonly bytes: number
  readonly length: Ms | null
  /** What is to be known of it; null: nothing. */
  readonly sentence: string | null
}

/** Notes that one is there, and puts its file in its place. In one transaction. @returns whether it was still wanted */
export async function exportDone(
  q: Queries,
  of: ExportToMake,
  { bytes, length, sentence }: MadeExport,
  put: () => Promise<void>,
): Promise<boolean> {
  const { talk_revision, programme_revision } = of
  const { numUpdatedRows } = await turnOf(q, of)
    .set({ state: 'done', share: 1, bytes, length_ms: length, sentence, talk_revision, programme_revision, made: new Date() })
    .executeTakeFirst()
  if (numUpdatedRows === 0n) return false
  await put()
  await tell(q, { talk: of.talk, kind: 'export', id: of.id })
  return true
}

/** Says why one could not be made. */
export async function exportFailed(q: Queries, id: string, sentence: string): Promise<void> {
  const row = await q
    .updateTable('talk_export')
    .set({ state: 'failed', sentence })
    .where('id', '=', id)
    .returning('talk')
    .executeTakeFirst()
  if (row !== undefined) await tell(q, { talk: row.talk, kind: 'export', id })
}

/** Finished files of a talk, by the names that they have, the oldest first. */
export const filesToKeep = (q: Queries, talk: string): Promise<readonly { readonly id: string; readonly file: string }[]> =>
  q.selectFrom('delivery').select(['id', 'file']).where('talk', '=', talk).where('state', '=', 'done').orderBy('number').execute()
