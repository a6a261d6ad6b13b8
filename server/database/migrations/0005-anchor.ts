import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Where the sound of a recording really lies; where a take is being recorded, and when it was last heard of. */
export const anchor: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table stretch
        add column prints jsonb,
        add column timing text check (timing in ('measured', 'approximate')),
        add column drift_ppm real;
      alter table take add column place jsonb, add column seen timestamptz not null default now();
    `.execute(db)
  },
}
