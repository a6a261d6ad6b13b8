import type { Queries } from '@server/database'
import type { ScreeningVersion } from './screening-pass'

/** The version of a talk that is shown now: what is recorded, or its slides at their planned times. */
export async function versionNow(q: Queries, talk: string): Promise<ScreeningVersion> {
  const row = await q
    .selectFrom('talk')
    .leftJoin('programme', (join) =>
      join.onRef('programme.talk', '=', 'talk.id').onRef('programme.revision', '=', 'talk.programme_revision'),
    )
    .select(['talk.revision', 'talk.programme_revision', 'programme.length_ms'])
    .where('talk.id', '=', talk)
    .executeTakeFirstOrThrow()
  // How long it is says whether anything of it is played, without reading all of it: many who watch ask for this.
  return (row.length_ms ?? 0) > 0
    ? { talk, timing: 'recorded', revision: row.programme_revision }
    : { talk, timing: 'planned', revision: row.revision }
}
