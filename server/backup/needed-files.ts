import { sql } from 'kysely'
import type { Queries } from '@server/database'

/** A file that the rows of a database name, as the store has it. */
export interface NeededFile {
  /** In the data folder. Where several are named, one of them is enough. */
  readonly paths: readonly string[]
  /** SHA-256; null: it is not noted. */
  readonly digest: string | null
}

/** Files that a database names: without them something is missing that people have. One snapshot is asked. */
export async function neededFiles(q: Queries): Promise<readonly NeededFile[]> {
  const { rows } = await sql<{ path: string; instead: string | null; digest: string | null }>`
    select distinct 'store/assets/' || left(digest, 2) || '/' || digest as path, null as instead, digest from asset
    union all select 'store/stretches/' || id || '/raw.webm', null, raw_digest from stretch where state = 'ready' and raw_digest is not null
    union all select 'store/stretches/' || id || '/recording.webm', null, recording_digest from stretch where recording_digest is not null
    union all select 'store/stretches/' || id || '/voice.pcm', null, voice_digest from stretch where voice_digest is not null
    union all select 'store/stretches/' || chunk.stretch || '/slices/' || lpad(chunk.n::text, 7, '0'),
      'store/stretches/' || chunk.stretch || '/raw.webm', null
      from chunk join stretch on stretch.id = chunk.stretch where stretch.state <> 'ready'
    union all select 'store/deliveries/' || id || '/film.mp4', null, digest from delivery where state = 'done' and digest is not null
    union all select 'store/exports/' || id || '/file', null, null from talk_export where state = 'done' and bytes is not null`.execute(q)
  return rows.map(({ path, instead, digest }) => ({ paths: instead === null ? [path] : [path, instead], digest }))
}
