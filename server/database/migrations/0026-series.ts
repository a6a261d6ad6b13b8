import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Talks in order, with a page of their own. */
export const series: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table series (
        id uuid primary key,
        owner uuid not null references person on delete cascade,
        -- 128 bits in base64url; whoever has it has the link to its page
        key text not null unique check (key ~ '^[A-Za-z0-9_-]{22}$'),
        name text not null check (length(name) between 1 and 100),
        description text not null default '' check (length(description) <= 4000),
        -- whether it stands on the shelf
        shelved boolean not null default false,
        -- who is written to when a new talk is there
        viewer_group uuid references viewer_group on delete set null,
        made timestamptz not null default now()
      );
      create index series_owner on series (owner);
      create index series_viewer_group on series (viewer_group);
      create table series_talk (
        series uuid not null references series on delete cascade,
        position integer not null check (position >= 0),
        talk uuid not null references talk on delete cascade,
        added timestamptz not null default now(),
        primary key (series, talk),
        unique (series, position) deferrable initially deferred
      );
      create index series_talk_talk on series_talk (talk);
      -- who wants no letters about it
      create table series_unwanted (
        series uuid not null references series on delete cascade,
        address text not null,
        primary key (series, address)
      );
    `.execute(db)
  },
}
