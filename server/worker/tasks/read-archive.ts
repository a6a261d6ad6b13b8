import { mkdir, readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { ObjectSchema } from 'joi'
import { ARCHIVE_VERSION, missingFrom, picturedIn, programmesIn } from '@core/archive'
import type { ArchivedStretch, TalkArchive } from '@core/archive'
import { picturesBehind, picturesOver } from '@core/programme'
import { assetsForViewers } from '@core/screening'
import { Refusal } from '@core/model'
import * as schemas from '@contracts/schemas'
import { unpackArchiveApart } from '@render/archive'
import { DrawnApart } from '@render/deck'
import { checkRecording } from '@render/probe'
import { database } from '@server/database'
import type { Database } from '@server/database'
import {
  broughtArchive,
  clearRestored,
  finishRestored,
  importDone,
  importFailed,
  importOf,
  noteAsset,
  noteFilesRead,
  putRestored,
  restoredStretches,
  roomInQuota,
  startReading,
  withOwnIds,
} from '@server/domain'
import { log } from '@server/log'
import { apartBounds, settings } from '@server/settings'
import { here, keepFile, putUnder, recordingFiles, removeTree, safeFolder, stretchFolder, uploadFolder } from '@server/store'
import type { Claim } from '../claims'
import { makeReadyAgain } from './ready-stretch'

/** Most of what is said of a talk, in bytes: three hours with a pen that never rests have a tenth. */
const MOST_JSON = 64_000_000
/** Unpacking takes no longer than this, in ms. */
const PATIENCE = 3_600_000
/** Files after which it is told how far it is. */
const TOLD_EVERY = 20
/** How large a picture is drawn to see that it can be, in pixels. */
const TRIED = { width: 64, height: 64 }

const FOREIGN =
  'This is no archive of a talk, or it was changed. An archive is what “Take along” in Hand over saves as “All of it, in open formats”.'

/** What was unpacked, by its name in the archive. */
type Files = ReadonlyMap<string, { readonly bytes: number; readonly digest: string }>

/** @throws Refusal with what is wrong, as far as a person can do something about it */
async function readTalk(folder: string, files: Files): Promise<TalkArchive> {
  const found = files.get('talk.json')
  if (found === undefined || found.bytes > MOST_JSON) throw new Refusal('unreadable', FOREIGN)
  let json: unknown
  try {
    json = JSON.parse(await readFile(join(folder, 'talk.json'), 'utf8'))
  } catch {
    throw new Refusal('unreadable', FOREIGN)
  }
  const head = schemas.archiveHead.validate(json)
  if (head.error !== undefined) throw new Refusal('unreadable', FOREIGN)
  const { version } = head.value as { version: number }
  if (version > ARCHIVE_VERSION)
    throw new Refusal(
      'unreadable',
      `This archive was made by a newer version (${String(version)}; up to ${String(ARCHIVE_VERSION)} can be read). ` +
        'Bring it to a server that is up to date.',
    )
  const { value, error } = (schemas.talkArchive as ObjectSchema<TalkArchive>).validate(json, { convert: false })
  if (error !== undefined)
    throw new Refusal('unreadable', `talk.json of this archive was changed and cannot be read any more: ${error.message}.`)
  const missing = missingFrom(value)
  if (missing !== null) throw new Refusal('unreadable', `This archive was changed: it lacks ${missing} that it names.`)
  return value
}

/** Every file that the talk needs is there, as it was. @throws Refusal naming the first that is not */
function checkFiles({ assets, takes }: TalkArchive, files: Files): void {
  for (const { file, digest } of assets) if (files.get(file)?.digest !== digest) throw changed(file)
  for (const { folder, rawDigest } of takes.flatMap(({ stretches }) => stretches))
    if (folder !== null && files.get(`${folder}/raw.webm`)?.digest !== rawDigest) throw changed(`${folder}/raw.webm`)
}

const changed = (file: string): Refusal =>
  new Refusal('unreadable', `“${file}” of this archive is missing or was changed. Save the archive again and bring that.`)

/** Draws what pages load as pictures, apart, to see that they are. @throws Refusal */
async function checkPictures(archive: TalkArchive, folder: string): Promise<void> {
  const { versions, assets } = archive
  const drawer = new DrawnApart(apartBounds())
  const files = new Map(assets.map(({ digest, file }) => [digest, file]))
  const clips = new Set<string>(versions.flatMap((version) => (version.clips ?? []).map(({ media }) => media.file)))
  try {
    const over = programmesIn(archive).flatMap((programme) => [...picturesOver(programme), ...picturesBehind(programme)])
    for (const digest of new Set([...assetsForViewers(versions.map(picturedIn)), ...over])) {
      const file = files.get(digest)
      if (file !== undefined && !clips.has(digest)) await drawer.draw({ path: join(folder, file), page: null, box: TRIED })
    }
  } finally {
    drawer.close()
  }
}

async function keepAssets(db: Database, talk: string, { assets }: TalkArchive, folder: string): Promise<void> {
  for (const { file, mime, bytes } of assets) await noteAsset(db, talk, await keepFile(join(folder, file)), mime, bytes)
}

/** Puts the files of a stretch where recordings lie. */
async function keepRecording({ folder, ...stretch }: ArchivedStretch, from: string, files: Files): Promise<void> {
  if (folder === null) return
  await safeFolder(stretchFolder(stretch.id))
  for (const [name, path] of recordingFiles(stretch)) if (files.has(`${folder}/${name}`)) await putUnder(join(from, folder, name), path)
}

/** Says where what is played now is not what it was: another version of a decoder makes other samples. */
async function compareVoices(db: Database, talk: string, { takes }: TalkArchive): Promise<void> {
  const before = new Map<string, string | null>(takes.flatMap(({ stretches }) => stretches.map(({ id, voiceDigest }) => [id, voiceDigest])))
  for (const { id, voice_digest } of await restoredStretches(db, talk)) {
    const was = before.get(id)
    if (was != null && was !== voice_digest) log.warn({ talk, stretch: id }, 'a voice of an archive sounds otherwise than it did')
  }
}

async function restore(db: Database, id: string, talk: string, folder: string, claim: Claim): Promise<void> {
  const files = new Map<string, { readonly bytes: number; readonly digest: string }>()
  let all = 0
  await unpackArchiveApart(
    { path: await here(broughtArchive(id)), out: folder, most: settings().talkQuota },
    { ...apartBounds(), time: PATIENCE },
    async (message) => {
      if (message.kind === 'plan') all = message.files
      if (message.kind !== 'file') return
      files.set(message.name, message)
      if (files.size % TOLD_EVERY === 0) await noteFilesRead(db, { id, talk }, files.size, Math.max(all, files.size))
    },
  )
  const read = await readTalk(folder, files)
  checkFiles(read, files)
  const total = [...files.values()].reduce((sum, { bytes }) => sum + bytes, 0)
  await roomInQuota(db, talk, total)
  await checkPictures(read, folder)
  const recorded = read.takes.flatMap(({ stretches }) => stretches).filter((stretch) => stretch.folder !== null)
  for (const { folder: own } of recorded) await checkRecording(join(folder, own ?? '', 'raw.webm'))
  const archive = withOwnIds(read)
  await keepAssets(db, talk, archive, folder)
  const sizes = new Map<string, number>()
  for (const stretch of archive.takes.flatMap(({ stretches }) => stretches)) {
    await keepRecording(stretch, folder, files)
    sizes.set(stretch.id, files.get(`${stretch.folder ?? ''}/raw.webm`)?.bytes ?? 0)
  }
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await clearRestored(q, talk)
    await putRestored(q, talk, archive, (stretch) => sizes.get(stretch) ?? 0)
  })
  for (const stretch of await restoredStretches(db, talk)) await makeReadyAgain(db, stretch, claim)
  await compareVoices(db, talk, archive)
  await db.transaction().execute(async (q) => {
    await claim.stillHeld(q)
    await finishRestored(q, talk, archive)
    await importDone(q, { id, talk }, [], [])
  })
}

/** Reads an archive into its talk. */
export async function readArchiveTask(id: string, claim: Claim): Promise<void> {
  const db = database()
  const row = await importOf(db, id)
  if (row === null || row.state === 'done' || row.state === 'failed') return
  const { talk } = row
  const folder = join(uploadFolder(), `restored-${id}-${String(claim.number)}`)
  await startReading(db, id)
  await mkdir(folder, { recursive: true })
  try {
    await restore(db, id, talk, folder, claim)
    await removeTree(broughtArchive(id))
  } catch (error) {
    // A fault of ours is tried again.
    if (!(error instanceof Refusal)) throw error
    await clearRestored(db, talk)
    await importFailed(db, id, `${error.message} Nothing of it was taken over; this talk is empty.`)
    await removeTree(broughtArchive(id))
  } finally {
    await removeTree(folder)
  }
}

/** Says so when it failed for a reason of ours. */
export async function readArchiveGivenUp(id: string): Promise<void> {
  const db = database()
  const row = await importOf(db, id)
  if (row !== null) await clearRestored(db, row.talk)
  await importFailed(
    db,
    id,
    'Reading this archive failed on our side. Bring it again, and tell whoever runs this server if it fails again.',
  )
}
