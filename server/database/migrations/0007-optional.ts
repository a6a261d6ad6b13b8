import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Slides that may go when their talk is too long. */
export const optional: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`alter table slide add column optional boolean not null default false`.execute(db)
  },
}
