import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** What was there before is held to the rules that were added for it. */
export const lookedThrough: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table programme validate constraint programme_kept;
      alter table talk_card validate constraint talk_card_talk;
      alter table talk_card validate constraint talk_card_owner;
    `.execute(db)
  },
}
