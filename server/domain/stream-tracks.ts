import type { Selectable } from 'kysely'
import type { Queries, StreamTable } from '@server/database'

export type StreamTrack = Selectable<StreamTable>

/** Tracks of a version, the smallest first; none while it is not made. */
export const streamTracks = (q: Queries, talk: string, revision: number): Promise<readonly StreamTrack[]> =>
  q.selectFrom('stream').selectAll().where('talk', '=', talk).where('programme_revision', '=', revision).orderBy('lines').execute()
