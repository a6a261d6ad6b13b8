import type { Queries } from '@server/database'
import { addJob, AFTER_FILES } from './jobs'
import { versionNow } from './screened-version'
import { streamTracks } from './stream-tracks'
import type { StreamTrack } from './stream-tracks'

/** Sizes that a talk is made in for those who watch it as a film, in lines. */
export const STREAM_LINES = [480, 720, 1080] as const
/** The one that is made whole besides, for players that know nothing of streams. */
export const WHOLE_LINES = 720

/** How long a talk must rest before it is made as a film, in ms: whoever edits it is not done yet. */
const REST = 20_000

/** Has a talk made as a film for those who watch, once it has rested, if it is shown to anybody. */
export async function wantStream(q: Queries, talk: string): Promise<void> {
  const shared = await q.selectFrom('share').select('talk').where('talk', '=', talk).where('level', '!=', 'closed').executeTakeFirst()
  if (shared === undefined) return
  await addJob(q, 'make-stream', { talk }, `stream:${talk}`, { starts: new Date(Date.now() + REST), place: AFTER_FILES })
}

/** The version of a talk that is to be made as a film; null when there is none, or it is there. */
export async function streamToMake(
  q: Queries,
  talk: string,
): Promise<{ readonly revision: number; readonly name: string; readonly presenter: string } | null> {
  const row = await q
    .selectFrom('share')
    .innerJoin('talk', 'talk.id', 'share.talk')
    .select(['talk.name', 'share.presenter'])
    .where('share.talk', '=', talk)
    .where('share.level', '!=', 'closed')
    .where('talk.deleted', 'is', null)
    .executeTakeFirst()
  if (row === undefined) return null
  const { timing, revision } = await versionNow(q, talk)
  if (timing === 'planned' || (await streamTracks(q, talk, revision)).length > 0) return null
  return { revision, ...row }
}

/** Notes a version that was made. @returns revisions that nobody watches any more: all but this one and the one before it */
export async function streamMade(
  q: Queries,
  talk: string,
  revision: number,
  tracks: readonly Omit<StreamTrack, 'talk' | 'programme_revision' | 'made'>[],
): Promise<readonly number[]> {
  await q
    .insertInto('stream')
    .values(tracks.map((track) => ({ ...track, talk, programme_revision: revision })))
    .onConflict((conflict) => conflict.doNothing())
    .execute()
  const rows = await q
    .selectFrom('stream')
    .select('programme_revision')
    .distinct()
    .where('talk', '=', talk)
    .orderBy('programme_revision', 'desc')
    .execute()
  const old = rows
    .map((row) => row.programme_revision)
    .filter((one) => one < revision)
    .slice(1)
  if (old.length > 0) await q.deleteFrom('stream').where('talk', '=', talk).where('programme_revision', 'in', old).execute()
  return old
}
