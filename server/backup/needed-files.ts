import type { Queries } from '@server/database'
import { assetPath, chunkPath, deliveryPath, exportPath, nameInStore, rawPath, recordingPath, voicePath } from '@server/store'
import { IN_STORE } from './content'

/** A file that the rows of a database name, as the store has it. */
export interface NeededFile {
  /** In the data folder. Where several are named, one of them is enough. */
  readonly paths: readonly string[]
  /** SHA-256; null: it is not noted. */
  readonly digest: string | null
}

/** Files that a database names: without them something is missing that people have. In one transaction, of one snapshot. */
export async function neededFiles(q: Queries): Promise<readonly NeededFile[]> {
  const file = (digest: string | null, ...paths: readonly string[]): NeededFile => ({
    paths: paths.map((path) => `${IN_STORE}${nameInStore(path) ?? ''}`),
    digest,
  })
  /** A file that is named as long as what it holds is noted. */
  const noted = (digest: string | null, path: string): readonly NeededFile[] => (digest === null ? [] : [file(digest, path)])
  const assets = await q.selectFrom('asset').select('digest').distinct().execute()
  const stretches = await q.selectFrom('stretch').select(['id', 'state', 'raw_digest', 'recording_digest', 'voice_digest']).execute()
  const chunks = await q
    .selectFrom('chunk')
    .innerJoin('stretch', 'stretch.id', 'chunk.stretch')
    .select(['chunk.stretch', 'chunk.n'])
    .where('stretch.state', '<>', 'ready')
    .execute()
  const films = await q.selectFrom('delivery').select(['id', 'digest']).where('state', '=', 'done').execute()
  const exports = await q.selectFrom('talk_export').select('id').where('state', '=', 'done').where('bytes', 'is not', null).execute()
  return [
    ...assets.map(({ digest }) => file(digest, assetPath(digest))),
    ...stretches.flatMap(({ id, state, raw_digest, recording_digest, voice_digest }) => [
      ...(state === 'ready' ? noted(raw_digest, rawPath(id)) : []),
      ...noted(recording_digest, recordingPath(id)),
      ...noted(voice_digest, voicePath(id)),
    ]),
    // Once they are put together they go.
    ...chunks.map(({ stretch, n }) => file(null, chunkPath(stretch, n), rawPath(stretch))),
    ...films.flatMap(({ id, digest }) => noted(digest, deliveryPath(id))),
    ...exports.map(({ id }) => file(null, exportPath(id))),
  ]
}
