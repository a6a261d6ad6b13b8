import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import type { Selectable } from 'kysely'
import { renamed } from '@core/archive'
import type { ArchivedStretch, TalkArchive } from '@core/archive'
import { Refusal } from '@core/model'
import type { Programme } from '@core/model'
import type { Queries, StretchTable } from '@server/database'
import { tell } from './events'
import { addImport } from './imports'
import { addJob } from './jobs'
import type { StagedUpload } from './kept-for-talk'
import { saveProgramme } from './programmes'
import { uploadFolder } from '@server/store'
import { lockShare } from './shares'
import { addTalk } from './talks'

/** Rows written together. */
const MANY = 1000

/** Where an archive that was brought lies until it is read. */
export const broughtArchive = (id: string): string => join(uploadFolder(), `archive-${id}`)

/**
 * Makes a talk of an archive that was brought; it is read by a job. In one transaction.
 * @returns the talk
 * @throws Refusal `malformed` when it is not one file, `too-many`
 */
export async function beginRestoring(q: Queries, owner: string, files: readonly StagedUpload[]): Promise<string> {
  const [file] = files
  if (file === undefined || files.length > 1) throw new Refusal('malformed', 'Bring one archive at a time.')
  const talk = await addTalk(q, owner, file.name.replace(/\.zip$/i, '').slice(0, 160) || 'Archive', null)
  const id = await addImport(q, talk, file.name)
  await file.staged.putUnder(broughtArchive(id))
  await addJob(q, 'read-archive', { id }, `read-archive:${id}`)
  return talk
}

/** Notes how many files of an archive were read, which is told. */
export async function noteFilesRead(q: Queries, { id, talk }: { readonly id: string; readonly talk: string }, done: number, all: number) {
  await q.updateTable('import').set({ pages_done: done, pages_total: all }).where('id', '=', id).execute()
  await tell(q, { talk, kind: 'import', id })
}

/** An archive with ids of its own for all that this server knows by an id: what it calls itself may be somebody else's here. */
export function withOwnIds(archive: TalkArchive): TalkArchive {
  const { slides, takes } = archive
  const stretches = takes.flatMap((take) => take.stretches)
  const names = new Map([...slides, ...takes, ...stretches].map(({ id }) => [id as string, randomUUID() as string]))
  // Its form is that of what was given.
  return renamed(archive, names) as TalkArchive
}

/** Takes out what was put into a talk by somebody who read an archive and was broken off. */
export async function clearRestored(q: Queries, talk: string): Promise<void> {
  await q.deleteFrom('take').where('talk', '=', talk).execute()
  await q.deleteFrom('slide').where('talk', '=', talk).execute()
}

async function putSlides(q: Queries, talk: string, { slides, versions }: TalkArchive): Promise<void> {
  for (let from = 0; from < slides.length; from += MANY)
    await q
      .insertInto('slide')
      .values(
        slides.slice(from, from + MANY).map(({ viewerNotes, planned, ...slide }) => ({
          ...slide,
          talk,
          viewer_notes: viewerNotes,
          planned_ms: planned,
          changed_revision: 1,
        })),
      )
      .execute()
  for (let from = 0; from < versions.length; from += MANY)
    await q
      .insertInto('slide_version')
      .values(
        versions.slice(from, from + MANY).map((one) => ({
          slide: one.slide,
          version: one.version,
          transition: one.transition,
          steps: JSON.stringify(one.steps),
          framing: one.framing && JSON.stringify(one.framing),
          proposed_inset: one.proposedInset && JSON.stringify(one.proposedInset),
          composition: one.composition && JSON.stringify(one.composition),
          clips: one.clips && JSON.stringify(one.clips),
          drawing: one.drawing && JSON.stringify(one.drawing),
        })),
      )
      .execute()
}

/** A stretch as it is kept. @param bytes of its recording */
const toRow = (take: string, stretch: ArchivedStretch, bytes: number) => ({
  id: stretch.id,
  take,
  number: stretch.number,
  camera: stretch.camera,
  voice: stretch.voice,
  mime: stretch.mime,
  opening: JSON.stringify(stretch.opening),
  length_ms: stretch.length,
  kept_ms: stretch.kept,
  chunks: stretch.folder === null ? 0 : 1,
  cues: stretch.cues.length,
  offset_picture: stretch.offsets.picture,
  offset_sound: stretch.offsets.sound,
  picture_at: stretch.pictureAt,
  sound_at: stretch.soundAt,
  state: 'ready' as const,
  peaks: JSON.stringify(stretch.peaks),
  loudness: stretch.loudness,
  camera_lost_ms: stretch.cameraLost,
  prints: null,
  tail: stretch.tail && JSON.stringify(stretch.tail),
  timing: stretch.timing,
  drift_ppm: stretch.drift,
  window_of: stretch.windowOf,
  window_view: stretch.windowView && JSON.stringify(stretch.windowView),
  stills: stretch.stills && JSON.stringify(stretch.stills),
  bytes,
})

async function putTakes(q: Queries, talk: string, { takes }: TalkArchive, bytesOf: (stretch: string) => number): Promise<void> {
  for (const { id, kind, intent, started, stretches } of takes) {
    const row = { id, talk, kind, intent: JSON.stringify(intent), started: new Date(started), sentence: null, discarded: null, place: null }
    await q
      .insertInto('take')
      .values({ ...row, state: 'closed' })
      .execute()
    // Those that windows were shown during stand before what was recorded of them.
    const ordered = [...stretches].sort((a, b) => Number(a.windowOf !== null) - Number(b.windowOf !== null))
    for (const stretch of ordered) {
      await q
        .insertInto('stretch')
        .values(toRow(id, stretch, bytesOf(stretch.id)))
        .execute()
      const { cues } = stretch
      for (let from = 0; from < cues.length; from += MANY)
        await q
          .insertInto('cue')
          .values(cues.slice(from, from + MANY).map((cue, n) => ({ stretch: stretch.id, n: from + n, cue: JSON.stringify(cue) })))
          .execute()
    }
  }
}

/** Puts deck and recordings of an archive into its talk. In one transaction. @param bytesOf a stretch's recording */
export async function putRestored(q: Queries, talk: string, archive: TalkArchive, bytesOf: (stretch: string) => number): Promise<void> {
  const { name, limit, shape, language, recipe, terms } = archive.talk
  await q
    .updateTable('talk')
    .set({
      name,
      limit_ms: limit,
      language,
      shape: JSON.stringify(shape),
      recipe: JSON.stringify(recipe),
      terms: JSON.stringify(terms),
      revision: 1,
      changed: new Date(),
    })
    .where('id', '=', talk)
    .execute()
  await putSlides(q, talk, archive)
  await putTakes(q, talk, archive, bytesOf)
}

/** Recorded stretches of a talk, but for what was recorded of windows. */
export const restoredStretches = (q: Queries, talk: string): Promise<readonly Selectable<StretchTable>[]> =>
  q
    .selectFrom('stretch')
    .innerJoin('take', 'take.id', 'stretch.take')
    .selectAll('stretch')
    .where('take.talk', '=', talk)
    .where('stretch.window_of', 'is', null)
    .where('stretch.chunks', '>', 0)
    .orderBy('stretch.id')
    .execute()

async function putWords(q: Queries, { words }: TalkArchive): Promise<void> {
  for (const { stretch, listenedBy, said, corrections } of words) {
    await q
      .insertInto('stretch_words')
      .values({ stretch, state: 'done', listened_by: listenedBy, said: JSON.stringify(said), sentence: null })
      .execute()
    if (corrections.length > 0)
      await q
        .insertInto('word_correction')
        .values(
          corrections.map(({ from, until, text, brought }) => ({
            id: randomUUID(),
            stretch,
            from_ms: from,
            until_ms: until,
            text,
            brought,
          })),
        )
        .execute()
  }
}

async function putShare(q: Queries, talk: string, { talk: { presenter, description }, links, files, assets }: TalkArchive): Promise<void> {
  await lockShare(q, talk)
  await q.updateTable('share').set({ presenter, description }).where('talk', '=', talk).execute()
  if (links.length > 0)
    await q
      .insertInto('shared_link')
      .values(
        links.map((link, position) => ({
          ...link,
          talk,
          position,
          from_visit: null,
          from_into_ms: null,
          to_visit: null,
          to_into_ms: null,
        })),
      )
      .execute()
  const bytes = new Map(assets.map((asset) => [asset.digest, asset.bytes]))
  if (files.length > 0)
    await q
      .insertInto('shared_file')
      .values(files.map(({ name, digest }) => ({ id: randomUUID(), talk, name, digest, bytes: bytes.get(digest) ?? 0 })))
      .execute()
}

/** Puts in what is made of the recordings, and says that all is there. In one transaction. */
export async function finishRestored(q: Queries, talk: string, archive: TalkArchive): Promise<void> {
  await putWords(q, archive)
  await putShare(q, talk, archive)
  let revision = 0
  const save = async (programme: Programme): Promise<void> => {
    ;({ revision } = await saveProgramme(q, talk, { ...programme, revision }, { kind: 'other' }))
  }
  for (const { name, programme } of archive.named) {
    await save(programme)
    await q.insertInto('named_version').values({ talk, revision, name }).execute()
  }
  if (archive.programme !== null) await save(archive.programme)
  await tell(q, { talk, kind: 'deck', id: null })
  await tell(q, { talk, kind: 'talk', id: null })
}
