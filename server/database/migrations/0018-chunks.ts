import { sql } from 'kysely'
import type { Migration } from 'kysely'

/** What a recorder hands out is a chunk; a slice is H.264's. */
export const chunks: Migration = {
  async up(db) {
    await sql`
      alter table slice rename to chunk;
      alter table stretch rename column slices to chunks;
    `.execute(db)
  },
}
