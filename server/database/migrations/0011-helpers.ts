import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/**
 * Several workers may make one delivery's pictures, and a look is taken at a talk's own pictures before it is said what a file would
 * cost.
 */
export const helpers: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table delivery add column helpers jsonb not null default '[]';
      create table probe (
        talk uuid not null references talk on delete cascade,
        setting text not null,
        programme_revision integer,
        found jsonb not null,
        made timestamptz not null default now(),
        primary key (talk, setting)
      );
    `.execute(db)
  },
}
