import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** A deck may be brought to take the place of the one that is there: which slide is which, what came of it, and the deck before. */
export const replacedDecks: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table import add column replaces text check (replaces in ('waiting', 'taken', 'given-back', 'dropped'));
      alter table import add column match jsonb;
      alter table import add column deck_before jsonb;
    `.execute(db)
  },
}
