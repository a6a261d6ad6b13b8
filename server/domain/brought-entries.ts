import { randomUUID } from 'node:crypto'
import { dirname } from 'node:path'
import { Refusal } from '@core/model'
import type { Companion, CompanionRole } from '@contracts'
import type { Database } from '@server/database'
import { entryFolder, entryPath, putUnder, removeTree, safeFolder } from '@server/store'
import { handInBrought } from './entries'
import type { Uploaded } from './kept-for-talk'
import { databaseNow } from './parts'
import { roomInQuota } from './quotas'
import { endingOf } from './take-entry'

/** What goes with a film, by the ending of its name. */
const ROLES: Readonly<Record<string, CompanionRole>> = {
  vtt: 'captions',
  srt: 'captions',
  docx: 'transcript',
  odt: 'transcript',
  txt: 'transcript',
  md: 'transcript',
  pdf: 'transcript',
  jpg: 'cover',
  jpeg: 'cover',
  png: 'cover',
}
/** A name's ending stands in a name of the store. */
const ENDING = /^[a-z0-9]{1,8}$/
/** A file that was begun in time is in time when it is there so long after the last moment, in ms; a slow line does not take days. */
const LONGEST_WAY = 3_600_000

interface Sorted {
  readonly film: Uploaded
  readonly companions: readonly { readonly file: Uploaded; readonly companion: Companion }[]
}

/** @throws Refusal `malformed` unless there is one film, and at most one file of each kind that goes with it */
function sorted(files: readonly Uploaded[]): Sorted {
  const films = files.filter(({ name }) => ROLES[endingOf(name)] === undefined)
  const [film, ...others] = films
  if (film === undefined) throw new Refusal('malformed', 'No film is among these files. Choose it, and what goes with it.')
  if (others.length > 0)
    throw new Refusal('malformed', 'There are several films among these files. Choose the one that is to be handed in.')
  if (!ENDING.test(endingOf(film.name))) throw new Refusal('malformed', `“${film.name}” has no ending that says what it is, such as .mp4.`)
  if (film.bytes === 0) throw new Refusal('unreadable', `“${film.name}” is empty. Nothing was handed in.`)
  const companions = files
    .filter((file) => file !== film)
    .flatMap((file) => {
      const ending = endingOf(file.name)
      const role = ROLES[ending]
      return role === undefined ? [] : [{ file, companion: { role, ending } }]
    })
  const roles = companions.map(({ companion }) => companion.role)
  if (new Set(roles).size < roles.length)
    throw new Refusal('malformed', 'With a film go one file of captions, one transcript and one cover at most.')
  return { film, companions }
}

async function putInto(path: string, file: Uploaded): Promise<void> {
  await safeFolder(dirname(path))
  await putUnder(file.path, path)
}

/**
 * Hands in files that were recorded elsewhere: a film, and what goes with it by the endings of their names.
 * @param begun when they were begun to be sent, in ms since 1970
 * @throws Refusal `malformed`, `unreadable`, `too-large` when there is no room, `conflict` when nothing is taken
 */
export async function handInFiles(db: Database, talk: string, files: readonly Uploaded[], begun: number): Promise<void> {
  const { film, companions } = sorted(files)
  await roomInQuota(
    db,
    talk,
    files.reduce((sum, { bytes }) => sum + bytes, 0),
  )
  const now = await databaseNow(db)
  const id = randomUUID()
  try {
    await putInto(entryPath(id, 'film', endingOf(film.name)), film)
    for (const { file, companion } of companions) await putInto(entryPath(id, companion.role, companion.ending), file)
    const brought = { id, file: film.name, companions: companions.map(({ companion }) => companion) }
    await db.transaction().execute((q) => handInBrought(q, talk, brought, now - begun > LONGEST_WAY ? now : begun))
  } catch (error) {
    await removeTree(entryFolder(id))
    throw error
  }
}
