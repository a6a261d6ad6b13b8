import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Parts of a deck have headings; what came of an office file is told, and its recording is a take. */
export const officeDecks: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table slide add column section text not null default '' check (length(section) <= 120);
      alter table slide_version add column proposed_inset jsonb;
      alter table import add column report jsonb;
      alter table import add column report_seen boolean not null default false;
      alter table import add column take uuid references take on delete set null;
      create index import_take on import (take);
    `.execute(db)
  },
}
