import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Slides have clips; what is brought in may be for one slide. */
export const clips: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table slide_version add column clips jsonb;
      alter table import add column onto uuid references slide on delete set null;
      create index import_onto on import (onto);
    `.execute(db)
  },
}
