import { randomUUID } from 'node:crypto'
import { Refusal, asId } from '@core/model'
import type { SharedFile } from '@contracts'
import type { Queries } from '@server/database'
import { tell } from './events'
import { keepUploaded } from './kept-for-talk'
import type { StagedUpload } from './kept-for-talk'
import { roomInQuota } from './quotas'
import { lockShare } from './shares'

/** Most files that go with one talk. */
const MOST_FILES = 60

const rowsOf = (q: Queries, talk: string) => q.selectFrom('shared_file').select(['id', 'name', 'bytes', 'digest']).where('talk', '=', talk)

/** Files that go with a talk, in the order in which they were added. */
export async function sharedFiles(q: Queries, talk: string): Promise<readonly SharedFile[]> {
  const rows = await rowsOf(q, talk).orderBy('added').orderBy('name').execute()
  return rows.map(({ id, name, bytes }) => ({ id: asId(id), name, bytes: Number(bytes) }))
}

/**
 * Adds files that go with a talk, as they came: nothing in them is opened here. In one transaction.
 * @throws Refusal `malformed` when there is none, `unreadable` when one is empty, `too-many`, `too-large` when there is no room
 */
export async function addSharedFiles(q: Queries, talk: string, files: readonly StagedUpload[]): Promise<readonly SharedFile[]> {
  if (files.length === 0) throw new Refusal('malformed', 'No file arrived. Choose one to go with the talk.')
  const empty = files.find((file) => file.bytes === 0)
  if (empty !== undefined) throw new Refusal('unreadable', `“${empty.name}” is empty. Nothing was added.`)
  // Whoever adds others at the same moment waits, so that they are counted together.
  await lockShare(q, talk)
  const there = await sharedFiles(q, talk)
  if (there.length + files.length > MOST_FILES)
    throw new Refusal('too-many', `Up to ${String(MOST_FILES)} files can go with a talk. Put several into one archive. Nothing was added.`)
  await roomInQuota(
    q,
    talk,
    files.reduce((sum, file) => sum + file.bytes, 0),
  )
  for (const file of files) {
    const digest = await keepUploaded(q, talk, file)
    await q.insertInto('shared_file').values({ id: randomUUID(), talk, digest, name: file.name, bytes: file.bytes }).execute()
  }
  await tell(q, { talk, kind: 'share', id: null })
  return await sharedFiles(q, talk)
}

/** A file that goes with a talk. @throws Refusal `not-found` when it is none of them */
export async function sharedFile(q: Queries, talk: string, id: string): Promise<SharedFile & { readonly digest: string }> {
  const row = await rowsOf(q, talk).where('id', '=', id).executeTakeFirst()
  if (row === undefined) throw new Refusal('not-found', 'This file does not go with the talk any more.')
  return { id: asId(row.id), name: row.name, bytes: Number(row.bytes), digest: row.digest }
}

/** Takes a file away from those that go with a talk. @throws Refusal `not-found` */
export async function removeSharedFile(q: Queries, talk: string, id: string): Promise<readonly SharedFile[]> {
  await sharedFile(q, talk, id)
  await q.deleteFrom('shared_file').where('id', '=', id).execute()
  await tell(q, { talk, kind: 'share', id: null })
  return await sharedFiles(q, talk)
}
