import { sql } from 'kysely'
import type { Migration } from 'kysely'

/** Which talks came with the product, so that the page can say that they are there to be played with. */
export const demoTalks: Migration = {
  async up(db) {
    await sql`alter table talk add column demo boolean not null default false`.execute(db)
  },
}
