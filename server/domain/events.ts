import { sql } from 'kysely'
import type { TalkEvent } from '@contracts'
import type { Queries } from '@server/database'

/** Channel on which the processes of this product tell each other what changed. */
export const CHANNEL = 'aisle'

/** Tells every process, and through them every page, that something of a talk changed. Inside a transaction: when it commits. */
export async function tell(q: Queries, event: TalkEvent): Promise<void> {
  await sql`select pg_notify(${CHANNEL}, ${JSON.stringify(event)})`.execute(q)
}
