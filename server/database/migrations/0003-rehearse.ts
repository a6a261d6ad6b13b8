import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Run-throughs: timings alone, nothing recorded. */
export const rehearse: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table rehearsal (
        id uuid primary key,
        talk uuid not null references talk on delete cascade,
        started timestamptz not null,
        visits jsonb not null check (jsonb_array_length(visits) >= 1)
      );
      create index rehearsal_talk on rehearsal (talk, started);
    `.execute(db)
  },
}
