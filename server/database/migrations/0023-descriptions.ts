import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** What a slide shows, for those who watch without seeing it. */
export const descriptions: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`alter table slide add column description text not null default '' check (length(description) <= 4000)`.execute(db)
  },
}
