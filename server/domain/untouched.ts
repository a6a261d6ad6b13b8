import { group } from 'd3'
import { sql } from 'kysely'
import type { Database, Queries } from '@server/database'
import { settings } from '@server/settings'
import { ago } from './ago'
import { sendLetter } from './letters'

const DAY = 86_400_000
/** So long before a talk goes its owner is told. */
const TOLD_BEFORE = 30 * DAY
/** Most talks that one letter names. */
const MOST_NAMED = 30

/** Talks of people with an account that nobody changed, or watched, for so long. */
const untouchedFor = (q: Queries, time: number) =>
  q
    .selectFrom('talk')
    .innerJoin('person', 'person.id', 'talk.owner')
    .where('talk.deleted', 'is', null)
    .where('person.guest', '=', false)
    .where('person.email', 'is not', null)
    .where('talk.changed', '<', ago(time))
    .where((is) =>
      is.not(
        is.exists(
          is
            .selectFrom('watched_day')
            .select('watched_day.talk')
            .whereRef('watched_day.talk', '=', 'talk.id')
            .where('watched_day.day', '>', sql<Date>`(${ago(time)})::date`),
        ),
      ),
    )

/** Tells one person which of their talks go, in one transaction with noting that they were told. */
async function tellOwner(q: Queries, owner: string, email: string, talks: readonly { id: string; name: string }[]): Promise<void> {
  const named = talks.slice(0, MOST_NAMED).map(({ name }) => `- ${name}`)
  const more = talks.length > MOST_NAMED ? [`and ${String(talks.length - MOST_NAMED)} more`] : []
  await sendLetter(q, owner, {
    recipient: email,
    subject: talks.length === 1 ? 'A talk of yours goes in a month' : `${String(talks.length)} talks of yours go in a month`,
    body:
      `Nobody has changed or watched this for ${String(settings().untouchedDays - TOLD_BEFORE / DAY)} days:\n\n` +
      `${[...named, ...more].join('\n')}\n\n` +
      `In thirty days it goes, with all recordings. To keep it, change it or watch it; to take it along, go to ` +
      `${settings().publicAddress}/archives.\n`,
  })
  await q
    .updateTable('talk')
    .set({ told_untouched: sql`now()` })
    .where(
      'id',
      'in',
      talks.map(({ id }) => id),
    )
    .execute()
}

/**
 * Lets go of talks that nobody has touched for longer than they are kept, once their owners have known for a month. They can be brought
 * back like all that is deleted. Nothing is done where talks are kept for ever.
 * @returns how many owners were told, and how many talks were deleted
 */
export async function letUntouchedGo(db: Database): Promise<{ readonly told: number; readonly deleted: number }> {
  const { untouchedDays } = settings()
  if (untouchedDays === 0) return { told: 0, deleted: 0 }
  const kept = untouchedDays * DAY
  // What was touched since its owner was told is not about to go any more.
  await db
    .updateTable('talk')
    .set({ told_untouched: null })
    .where('told_untouched', 'is not', null)
    .where('id', 'not in', untouchedFor(db, kept - TOLD_BEFORE).select('talk.id'))
    .execute()
  const due = await untouchedFor(db, kept - TOLD_BEFORE)
    .select(['talk.id', 'talk.name', 'talk.owner', 'person.email'])
    .where('talk.told_untouched', 'is', null)
    .orderBy('talk.name')
    .execute()
  const owners = group(due, ({ owner }) => owner)
  for (const [owner, talks] of owners) await db.transaction().execute((q) => tellOwner(q, owner, talks[0]?.email ?? '', talks))
  const gone = await db
    .updateTable('talk')
    .set({ deleted: sql`now()` })
    .where('told_untouched', '<', ago(TOLD_BEFORE))
    .where('deleted', 'is', null)
    .returning('id')
    .execute()
  return { told: owners.size, deleted: gone.length }
}
