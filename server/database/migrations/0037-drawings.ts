import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Something may be drawn on slides, and move. */
export const drawings: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`alter table slide_version add column drawing jsonb`.execute(db)
  },
}
