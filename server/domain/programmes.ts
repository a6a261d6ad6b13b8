import { EMPTY_PROGRAMME, Refusal } from '@core/model'
import type { Programme } from '@core/model'
import { programmeLength } from '@core/programme'
import type { ChangeReason } from '@core/programme'
import type { ChangeRole } from '@contracts'
import type { Queries } from '@server/database'
import { wantAhead } from './ahead'
import { wantBackdrops } from './backdrop-films'
import { wantStream } from './streams'
import { tell } from './events'

/** The talk's programme as it is now; an empty one before anything was recorded. */
export async function currentProgramme(q: Queries, talk: string): Promise<Programme> {
  const row = await q
    .selectFrom('talk')
    .leftJoin('programme', (join) =>
      join.onRef('programme.talk', '=', 'talk.id').onRef('programme.revision', '=', 'talk.programme_revision'),
    )
    .select('programme.value')
    .where('talk.id', '=', talk)
    .executeTakeFirst()
  return row?.value ?? EMPTY_PROGRAMME
}

/** Who made a revision, and what it took back. */
export interface Making {
  readonly author?: string | null
  readonly role?: ChangeRole
  readonly takesBack?: number
}

/**
 * Keeps the next revision of a talk's programme.
 * @param programme what it is to be; its revision is the one that it follows
 * @returns as it is kept
 * @throws Refusal `conflict` when somebody else made the same revision first
 */
export async function saveProgramme(
  q: Queries,
  talk: string,
  programme: Programme,
  reason: ChangeReason,
  { author = null, role = 'edit', takesBack }: Making = {},
): Promise<Programme> {
  const next = { ...programme, revision: programme.revision + 1 }
  const moved = await q
    .updateTable('talk')
    .set({ programme_revision: next.revision, changed: new Date() })
    .where('id', '=', talk)
    .where('programme_revision', '=', programme.revision)
    .executeTakeFirst()
  if (moved.numUpdatedRows !== 1n)
    throw new Refusal('conflict', 'The programme was changed on another page in the meantime. Nothing was overwritten; try again.')
  await q
    .insertInto('programme')
    .values({
      talk,
      revision: next.revision,
      value: JSON.stringify(next),
      difference: null,
      length_ms: Math.round(programmeLength(next)),
      reason: JSON.stringify(reason),
      author,
      role,
      takes_back: takesBack ?? null,
    })
    .execute()
  await tell(q, { talk, kind: 'programme', id: String(next.revision) })
  await wantBackdrops(q, next)
  await wantAhead(q, talk)
  await wantStream(q, talk)
  return next
}
