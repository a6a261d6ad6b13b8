import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Files and links that those who watch a talk find beside it. */
export const withTheTalk: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table shared_file (
        id uuid primary key,
        talk uuid not null references share on delete cascade,
        digest text not null,
        name text not null check (length(name) between 1 and 200),
        bytes bigint not null check (bytes > 0),
        added timestamptz not null default now(),
        foreign key (talk, digest) references asset
      );
      create index shared_file_talk on shared_file (talk, added);
      create table shared_link (
        talk uuid not null references share on delete cascade,
        position integer not null check (position >= 0),
        address text not null check (length(address) <= 2000 and address ~* '^https?://'),
        title text not null check (length(title) <= 200),
        -- the visits in which it begins and ends to stand beside the film, and how far into them: it goes wherever they go
        from_visit text check (length(from_visit) <= 200),
        from_into_ms integer check (from_into_ms >= 0),
        to_visit text check (length(to_visit) <= 200),
        to_into_ms integer check (to_into_ms >= 0),
        primary key (talk, position),
        check (num_nulls(from_visit, from_into_ms, to_visit, to_into_ms) in (0, 4))
      );
    `.execute(db)
  },
}
