import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** How talks are watched: counts, and nothing that tells one who watches from another, but where a group is told so. */
export const watched: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table watched_day (
        talk uuid not null references share on delete cascade,
        day date not null,
        visits integer not null default 0 check (visits >= 0),
        finished integer not null default 0 check (finished >= 0),
        primary key (talk, day)
      );
      create table watched_part (
        talk uuid not null references share on delete cascade,
        -- five seconds of a visit: they go wherever that goes
        visit text not null check (length(visit) <= 200),
        part integer not null check (part >= 0),
        played integer not null default 0,
        gone_back integer not null default 0,
        gone integer not null default 0,
        primary key (talk, visit, part)
      );
      -- whether those who are named are told that their presenter sees who has finished
      alter table share add column reports boolean not null default false;
      create table watched_by (
        talk uuid not null references share on delete cascade,
        address text not null,
        finished timestamptz not null default now(),
        primary key (talk, address)
      );
    `.execute(db)
  },
}
