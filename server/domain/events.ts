import { sql } from 'kysely'
import type { TalkEvent } from '@contracts'
import type { Queries } from '@server/database'

/** Channel on which the processes of this product tell each other what changed. */
export const CHANNEL = 'aisle'

/** News that change what the page of all talks shows of one. */
const ON_CARDS: readonly TalkEvent['kind'][] = ['deck', 'import', 'take', 'programme', 'delivery', 'talk']

/** Tells every process, and through them every page, that something of a talk changed. Inside a transaction: when it commits. */
export async function tell(q: Queries, event: TalkEvent): Promise<void> {
  if (ON_CARDS.includes(event.kind))
    await q
      .updateTable('talk_card')
      .set((build) => ({ version: build('version', '+', 1) }))
      .where('talk', '=', event.talk)
      .execute()
  await sql`select pg_notify(${CHANNEL}, ${JSON.stringify(event)})`.execute(q)
}
