import { group } from 'd3'
import type { Selectable } from 'kysely'
import { ARCHIVE_KIND, ARCHIVE_VERSION, picturedIn, programmesIn } from '@core/archive'
import type { ArchivedAsset, ArchivedStretch, ArchivedTake, ArchivedVersion, ArchivedWords, TalkArchive } from '@core/archive'
import { namesInFolder } from '@core/bundle'
import { assetsOfSlides } from '@core/deck'
import { asId } from '@core/model'
import { assetsOver } from '@core/programme'
import type { Cue, Programme } from '@core/model'
import type { Queries, StretchTable } from '@server/database'
import { programmeAt } from './programme-differences'
import { currentProgramme } from './programmes'
import { stretchIdsOf } from './films'

type Row = Selectable<StretchTable>

/** Endings of files by what is in them, where nobody named them. */
const ENDINGS: Readonly<Record<string, string>> = {
  'image/jpeg': '.jpg',
  'image/webp': '.webp',
  'image/png': '.png',
  'application/pdf': '.pdf',
  'video/mp4': '.mp4',
  'audio/mp4': '.m4a',
}

/** Programmes that are kept: the one that is, and those that got a name. */
interface KeptProgrammes {
  readonly now: Programme | null
  readonly named: TalkArchive['named']
}

async function programmesOf(q: Queries, talk: string): Promise<KeptProgrammes> {
  const [now, named] = await Promise.all([
    currentProgramme(q, talk),
    q
      .selectFrom('named_version')
      .innerJoin('programme', (join) =>
        join.onRef('programme.talk', '=', 'named_version.talk').onRef('programme.revision', '=', 'named_version.revision'),
      )
      .select(['named_version.name', 'programme.revision'])
      .where('named_version.talk', '=', talk)
      .orderBy('named_version.revision')
      .execute(),
  ])
  const versions: { readonly name: string; readonly programme: Programme }[] = []
  for (const { name, revision } of named) versions.push({ name, programme: await programmeAt(q, talk, revision) })
  return { now: now.pieces.length === 0 ? null : now, named: versions }
}

async function versionsOf(q: Queries, talk: string): Promise<readonly ArchivedVersion[]> {
  const rows = await q
    .selectFrom('slide_version')
    .innerJoin('slide', 'slide.id', 'slide_version.slide')
    .selectAll('slide_version')
    .where('slide.talk', '=', talk)
    .orderBy('slide_version.slide')
    .orderBy('slide_version.version')
    .execute()
  return rows.map(({ slide, proposed_inset, ...row }) => ({ ...row, slide: asId(slide), proposedInset: proposed_inset }))
}

/** Slides with what is seen of them, in the versions that something shows. */
async function slidesOfArchive(q: Queries, talk: string, { now, named }: KeptProgrammes) {
  const [slides, versions] = await Promise.all([
    q.selectFrom('slide').selectAll().where('talk', '=', talk).orderBy('position').orderBy('id').execute(),
    versionsOf(q, talk),
  ])
  const shown = [...(now === null ? [] : [now]), ...named.map(({ programme }) => programme)]
  const wanted = new Set([
    ...slides.map(({ id, version }) => `${id} ${String(version)}`),
    ...shown.flatMap((programme) => Object.entries(programme.slides).map(([id, version]) => `${id} ${String(version)}`)),
  ])
  return {
    slides: slides.map(({ id, talk: _, viewer_notes, planned_ms, changed_revision: __, ...row }) => ({
      ...row,
      id: asId<'slide'>(id),
      viewerNotes: viewer_notes,
      planned: planned_ms,
    })),
    versions: versions.filter(({ slide, version }) => wanted.has(`${slide} ${String(version)}`)),
  }
}

const toStretch = (row: Row, cues: readonly Cue[], folder: string | null): ArchivedStretch => ({
  id: asId(row.id),
  number: row.number,
  camera: row.camera,
  voice: row.voice,
  mime: row.mime,
  opening: row.opening,
  cues,
  length: row.length_ms ?? 0,
  kept: row.kept_ms,
  offsets: { picture: row.offset_picture, sound: row.offset_sound },
  pictureAt: row.picture_at,
  soundAt: row.sound_at,
  timing: row.timing,
  drift: row.drift_ppm,
  tail: row.tail,
  peaks: row.peaks ?? [],
  loudness: row.loudness,
  cameraLost: row.camera_lost_ms,
  windowOf: row.window_of === null ? null : asId(row.window_of),
  windowView: row.window_view,
  stills: row.stills,
  folder,
  rawDigest: row.raw_digest,
  voiceDigest: row.voice_digest,
})

/** Takes that are finished, but for those that were thrown away and that nothing plays. */
async function takesOfArchive(q: Queries, talk: string, { now, named }: KeptProgrammes): Promise<readonly ArchivedTake[]> {
  const rows = await q
    .selectFrom('stretch')
    .innerJoin('take', 'take.id', 'stretch.take')
    .selectAll('stretch')
    .select(['take.kind', 'take.intent', 'take.started', 'take.state as take_state'])
    .where('take.talk', '=', talk)
    .where('take.state', 'in', ['closed', 'discarded'])
    .where('stretch.state', '=', 'ready')
    .orderBy('take.started')
    .orderBy('stretch.number')
    .execute()
  const played = new Set<string>(
    [now, ...named.map(({ programme }) => programme)].flatMap((one) => (one === null ? [] : stretchIdsOf(one))),
  )
  const byTake = group(rows, (row) => row.take)
  const kept = [...byTake].filter(([, own]) => own.some(({ id, take_state }) => take_state === 'closed' || played.has(id)))
  const ids = kept.flatMap(([, own]) => own.map(({ id }) => id))
  const cues =
    ids.length === 0 ? [] : await q.selectFrom('cue').select(['stretch', 'cue']).where('stretch', 'in', ids).orderBy('n').execute()
  const byStretch = group(cues, (row) => row.stretch)
  return kept.map(([take, own], n) => ({
    id: asId(take),
    kind: own[0]?.kind ?? 'full',
    intent: own[0]?.intent ?? { kind: 'append' },
    started: (own[0]?.started ?? new Date(0)).toISOString(),
    stretches: own.map((row, part) => {
      const said = (byStretch.get(row.id) ?? []).map(({ cue }) => cue)
      const recorded = (row.length_ms ?? 0) > 0 && row.raw_digest !== null
      return toStretch(row, said, recorded ? `recordings/take-${String(n + 1)}/part-${String(part + 1)}` : null)
    }),
  }))
}

async function wordsOfArchive(q: Queries, takes: readonly ArchivedTake[]): Promise<readonly ArchivedWords[]> {
  const ids: readonly string[] = takes.flatMap(({ stretches }) => stretches.map(({ id }) => id))
  if (ids.length === 0) return []
  const [heard, corrections] = await Promise.all([
    q.selectFrom('stretch_words').selectAll().where('stretch', 'in', ids).where('state', '=', 'done').execute(),
    q.selectFrom('word_correction').selectAll().where('stretch', 'in', ids).orderBy('from_ms').execute(),
  ])
  const byStretch = group(corrections, (row) => row.stretch)
  return heard.map(({ stretch, listened_by, said }) => ({
    stretch: asId(stretch),
    listenedBy: listened_by,
    said,
    corrections: (byStretch.get(stretch) ?? []).map(({ from_ms, until_ms, text, brought }) => ({
      from: from_ms,
      until: until_ms,
      text,
      brought,
    })),
  }))
}

/** Files of the talk with the names under which they were brought, where that is known. */
async function assetsOfArchive(q: Queries, talk: string, digests: ReadonlySet<string>): Promise<readonly ArchivedAsset[]> {
  const [rows, imports] = await Promise.all([
    q.selectFrom('asset').select(['digest', 'mime', 'bytes']).where('talk', '=', talk).orderBy('digest').execute(),
    q.selectFrom('import').select('files').where('talk', '=', talk).execute(),
  ])
  const brought = new Map(imports.flatMap(({ files }) => files.map(({ digest, name }) => [digest, name])))
  const wanted = rows.filter(({ digest }) => digests.has(digest) || brought.has(digest))
  const names = namesInFolder(wanted.map(({ digest, mime }) => brought.get(digest) ?? `${digest.slice(0, 16)}${ENDINGS[mime] ?? ''}`))
  return wanted.map(({ digest, mime, bytes }, n) => ({ digest, mime, bytes: Number(bytes), file: `deck/${names[n] ?? digest}` }))
}

/** A whole talk as an archive holds it. @param made when, as ISO 8601 says it */
export async function archivedTalk(q: Queries, talk: string, made: string): Promise<TalkArchive> {
  const row = await q
    .selectFrom('talk')
    .leftJoin('share', 'share.talk', 'talk.id')
    .select(['name', 'limit_ms', 'shape', 'language', 'recipe', 'terms', 'presenter', 'description'])
    .where('talk.id', '=', talk)
    .executeTakeFirstOrThrow()
  const programmes = await programmesOf(q, talk)
  const [{ slides, versions }, takes, links, files] = await Promise.all([
    slidesOfArchive(q, talk, programmes),
    takesOfArchive(q, talk, programmes),
    q.selectFrom('shared_link').select(['address', 'title']).where('talk', '=', talk).orderBy('position').execute(),
    q.selectFrom('shared_file').select(['name', 'digest']).where('talk', '=', talk).orderBy('added').orderBy('name').execute(),
  ])
  const named = assetsOfSlides(versions.map(picturedIn))
  const over = programmesIn({ programme: programmes.now, named: programmes.named }).flatMap(assetsOver)
  const digests = new Set<string>([...named, ...over, ...files.map(({ digest }) => digest)])
  return {
    kind: ARCHIVE_KIND,
    version: ARCHIVE_VERSION,
    made,
    talk: {
      name: row.name,
      limit: row.limit_ms,
      shape: row.shape,
      language: row.language,
      recipe: row.recipe,
      terms: row.terms,
      presenter: row.presenter ?? '',
      description: row.description ?? '',
    },
    slides,
    versions,
    assets: await assetsOfArchive(q, talk, digests),
    takes,
    programme: programmes.now,
    named: programmes.named,
    words: await wordsOfArchive(q, takes),
    links,
    files,
  }
}
