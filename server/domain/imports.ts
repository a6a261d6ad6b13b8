import { randomUUID } from 'node:crypto'
import { sql } from 'kysely'
import { orderBy } from 'natural-orderby'
import type { Insertable, Selectable } from 'kysely'
import { recomposed } from '@core/compose'
import { Refusal } from '@core/model'
import type { Size, Slide, SlideId } from '@core/model'
import type { OfficeReport } from '@core/office'
import type { ImportTable, Queries } from '@server/database'
import { saveDeck, slidesOf } from './decks'
import { tell } from './events'
import { addJob } from './jobs'
import { keepUploaded } from './kept-for-talk'
import type { StagedUpload, Uploaded } from './kept-for-talk'
import { roomForImport, roomInQuota } from './quotas'

/** What is done with files that are brought in. */
export interface ImportWish {
  /** Where its slides go, counted from 0; null: at the end. */
  readonly place: number | null
  /** The slide that its films and sounds are put on; null: they come as slides. */
  readonly onto: string | null
  /** Whether its slides are to take the place of the deck, once somebody has looked at them. */
  readonly replaces: boolean
}

/** @throws Refusal when there is no file, or an empty one */
function checkFiles(files: readonly Uploaded[]): void {
  if (files.length === 0) throw new Refusal('malformed', 'No file arrived. Drop a PDF, pictures or a text here.')
  const empty = files.find((file) => file.bytes === 0)
  if (empty !== undefined) throw new Refusal('unreadable', `“${empty.name}” is empty. Nothing was changed.`)
}

/** Notes something that is brought into a talk and read by a job. @param more what is said of it besides @returns its id */
export async function addImport(
  q: Queries,
  talk: string,
  name: string,
  more: Partial<Pick<Insertable<ImportTable>, 'files' | 'place' | 'onto' | 'replaces'>> = {},
): Promise<string> {
  const id = randomUUID()
  await q
    .insertInto('import')
    .values({
      id,
      talk,
      name,
      files: JSON.stringify([]),
      state: 'queued',
      pages_total: null,
      sentence: null,
      place: null,
      builds: null,
      slides: null,
      revisions: null,
      report: null,
      take: null,
      onto: null,
      replaces: null,
      match: null,
      deck_before: null,
      ...more,
    })
    .execute()
  return id
}

/**
 * Takes in files for a talk's deck: kept under their digests, then read by a job in the order a person would count them.
 * @throws Refusal `malformed` when there is none, `not-found` when the slide that it is for is gone
 */
export async function beginImport(
  q: Queries,
  talk: string,
  files: readonly StagedUpload[],
  { place, onto, replaces }: ImportWish,
): Promise<string> {
  checkFiles(files)
  if (onto !== null && !(await slidesOf(q, talk)).some((slide) => slide.id === onto))
    throw new Refusal('not-found', 'The slide that this is for is not in the deck any more. Nothing was changed.')
  await roomForImport(q, talk)
  await roomInQuota(
    q,
    talk,
    files.reduce((sum, file) => sum + file.bytes, 0),
  )
  const ordered = orderBy([...files], [(file) => file.name])
  const kept: { digest: string; name: string }[] = []
  for (const file of ordered) {
    kept.push({ digest: await keepUploaded(q, talk, file), name: file.name })
  }
  const name = ordered.length === 1 ? (ordered[0]?.name ?? '') : `${String(ordered.length)} files`
  const id = await addImport(q, talk, name, { files: JSON.stringify(kept), place, onto, replaces: replaces ? 'waiting' : null })
  await addJob(q, 'read-deck', { id }, `read-deck:${id}`)
  await tell(q, { talk, kind: 'import', id })
  return id
}

/** Which of some slides anything of their talk refers to: recordings, or a version of its programme. */
async function slidesReferredTo(q: Queries, talk: string, slides: readonly string[]): Promise<ReadonlySet<string>> {
  const { rows } = await sql<{ id: string }>`
    select wanted.id from unnest(${[...slides]}::uuid[]) as wanted(id)
    where exists (select from programme where programme.talk = ${talk} and (value -> 'slides') ? wanted.id::text)
      or exists (select from stretch join take on take.id = stretch.take where take.talk = ${talk}
        and opening ->> 'slide' = wanted.id::text)
      or exists (select from cue join stretch on stretch.id = cue.stretch join take on take.id = stretch.take
        where take.talk = ${talk} and cue.cue ->> 'kind' = 'show' and cue.cue ->> 'slide' = wanted.id::text)`.execute(q)
  return new Set(rows.map(({ id }) => id))
}

/**
 * Takes out again what an import put in that was refused after some of it had been read. What somebody has worked on since, and what
 * anything refers to, stays. In one transaction.
 * @returns how many slides stay
 */
export async function takeBackImport(q: Queries, id: string): Promise<number> {
  const { talk, slides, revisions } = await q
    .selectFrom('import')
    .select(['talk', 'slides', 'revisions'])
    .where('id', '=', id)
    .forUpdate()
    .executeTakeFirstOrThrow()
  if (slides === null || slides.length === 0) return 0
  await q.selectFrom('talk').select('id').where('id', '=', talk).forUpdate().execute()
  const came = new Map(slides.map((slide, n) => [slide, revisions?.[n]]))
  const now = await q.selectFrom('slide').select(['id', 'changed_revision']).where('id', 'in', slides).execute()
  const referred = await slidesReferredTo(q, talk, slides)
  const stay = now
    .filter((slide) => referred.has(slide.id) || (came.get(slide.id) !== undefined && slide.changed_revision !== came.get(slide.id)))
    .map((slide) => slide.id)
  const gone = slides.filter((slide) => !stay.includes(slide))
  if (gone.length > 0) await q.deleteFrom('slide').where('id', 'in', gone).execute()
  await q.updateTable('import').set({ pages_done: 0, slides: null, revisions: null }).where('id', '=', id).execute()
  await tell(q, { talk, kind: 'deck', id: null })
  return stay.length
}

/** Its offer of steps was taken up or turned down: it is not made again. */
export async function settleBuilds(q: Queries, talk: string, id: string): Promise<void> {
  await q.updateTable('import').set({ builds: null }).where('id', '=', id).where('talk', '=', talk).execute()
  await tell(q, { talk, kind: 'import', id })
}

/** Somebody has read what came of an import's office files. */
export async function noteReportSeen(q: Queries, talk: string, id: string): Promise<void> {
  await q.updateTable('import').set({ report_seen: true }).where('id', '=', id).where('talk', '=', talk).execute()
  await tell(q, { talk, kind: 'import', id })
}

type Import = Selectable<ImportTable>

/** An import; null when there is none of that id. */
export const importOf = async (q: Queries, id: string): Promise<Import | null> =>
  (await q.selectFrom('import').selectAll().where('id', '=', id).executeTakeFirst()) ?? null

/** An import is being read. */
export async function startReading(q: Queries, id: string): Promise<void> {
  await q.updateTable('import').set({ state: 'reading' }).where('id', '=', id).execute()
}

/** Notes how many pages an import has; a deck that is still empty takes the shape of what comes in. */
export async function notePages(q: Queries, { id, talk }: Pick<Import, 'id' | 'talk'>, pages: number, shape: Size): Promise<void> {
  await q.updateTable('import').set({ pages_total: pages }).where('id', '=', id).execute()
  await q
    .updateTable('talk')
    .set({ shape: JSON.stringify(shape) })
    .where('id', '=', talk)
    .where((build) =>
      build.not(
        build.exists(build.selectFrom('slide').select('slide.id').where('slide.talk', '=', talk).where('slide.position', 'is not', null)),
      ),
    )
    .execute()
}

/** What an import has put into its talk's deck until now. */
export interface ImportProgress {
  readonly made: readonly SlideId[]
  /** At which of the deck's revisions each came. */
  readonly revisions: readonly number[]
  /** Pages read. */
  readonly pages: number
}

/**
 * Puts slides that were read into the talk's deck, behind those that came before them. In one transaction.
 * @returns the revision of the deck in which they are
 */
export async function putImported(
  q: Queries,
  { id, talk, place }: Pick<Import, 'id' | 'talk' | 'place'>,
  slides: readonly Slide[],
  { made, revisions, pages }: ImportProgress,
): Promise<number> {
  const { revision, shape } = await q
    .updateTable('talk')
    .set((build) => ({ revision: build('revision', '+', 1), changed: new Date() }))
    .where('id', '=', talk)
    .returning(['revision', 'shape'])
    .executeTakeFirstOrThrow()
  const before = await slidesOf(q, talk)
  const last = made.at(-1)
  const behind = last === undefined ? -1 : before.findIndex((slide) => slide.id === last)
  const at = behind >= 0 ? behind + 1 : Math.min(place ?? before.length, before.length)
  await saveDeck(
    q,
    talk,
    before,
    [...before.slice(0, at), ...slides.map((slide) => recomposed(slide, shape)), ...before.slice(at)],
    revision,
  )
  await q
    .updateTable('import')
    .set({
      pages_done: pages,
      slides: JSON.stringify([...made, ...slides.map((slide) => slide.id)]),
      revisions: JSON.stringify([...revisions, ...slides.map(() => revision)]),
    })
    .where('id', '=', id)
    .execute()
  await tell(q, { talk, kind: 'deck', id: null })
  return revision
}

/**
 * All of an import is in the deck, which is told.
 * @param builds slides that look like steps of one, group by group
 * @param reports what came of each office file
 */
export async function importDone(
  q: Queries,
  { id, talk }: Pick<Import, 'id' | 'talk'>,
  builds: readonly (readonly SlideId[])[],
  reports: readonly OfficeReport[],
): Promise<void> {
  await q
    .updateTable('import')
    .set({
      state: 'done',
      builds: builds.length === 0 ? null : JSON.stringify(builds),
      report: reports.length === 0 ? null : JSON.stringify(reports),
    })
    .where('id', '=', id)
    .execute()
  await tell(q, { talk, kind: 'import', id })
}

/**
 * Notes where the inset is proposed on slides that an import put in, now that all of them are known. Slides that anything refers to
 * meanwhile, or that were changed, stay as they are. In one transaction, before the import is done.
 */
export async function proposeInsets(
  q: Queries,
  talk: string,
  proposals: ReadonlyMap<SlideId, NonNullable<Slide['proposedInset']>>,
): Promise<void> {
  if (proposals.size === 0) return
  const referred = await slidesReferredTo(q, talk, [...proposals.keys()])
  const rows = [...proposals].filter(([slide]) => !referred.has(slide))
  if (rows.length === 0) return
  await sql`
    update slide_version set proposed_inset = wanted.inset
    from unnest(${rows.map(([slide]) => slide)}::uuid[], ${rows.map(([, inset]) => JSON.stringify(inset))}::jsonb[]) as wanted(slide, inset)
    where slide_version.slide = wanted.slide and slide_version.version = 1 and slide_version.framing is null`.execute(q)
}

/** An import cannot be read, which is said and told, unless it was read already. */
export async function importFailed(q: Queries, id: string, sentence: string): Promise<void> {
  const row = await q
    .updateTable('import')
    .set({ state: 'failed', sentence })
    .where('id', '=', id)
    .where('state', '<>', 'done')
    .returning('talk')
    .executeTakeFirst()
  if (row !== undefined) await tell(q, { talk: row.talk, kind: 'import', id })
}
