import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Where people are signed in, so that signing out ends it, and attempts to sign in that failed, counted for all processes. */
export const signedIn: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table signed_in (
        id uuid primary key,
        person uuid not null references person on delete cascade,
        since timestamptz not null default now(),
        until timestamptz not null
      );
      create index signed_in_person on signed_in (person);
      create table attempt (
        key text primary key check (length(key) <= 400),
        points integer not null default 0,
        -- ms since 1970; null: never
        expire bigint
      );
    `.execute(db)
  },
}
