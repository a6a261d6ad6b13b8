import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** What is made of talks to be taken along. */
export const exports: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table talk_export (
        id uuid primary key,
        talk uuid not null references talk on delete cascade,
        kind text not null check (kind in ('bundle', 'small-bundle', 'shown', 'narrated-deck', 'archive')),
        lines integer not null,
        deliveries boolean not null,
        state text not null default 'queued' check (state in ('queued', 'making', 'done', 'failed')),
        share real not null default 0 check (share between 0 and 1),
        file text not null,
        bytes bigint,
        length_ms integer,
        -- of what it was made
        talk_revision integer,
        programme_revision integer,
        sentence text,
        -- grows when it is ordered anew: whoever makes it for an earlier turn is to end
        turn integer not null default 0,
        made timestamptz not null default now(),
        unique (talk, kind)
      );
    `.execute(db)
  },
}
