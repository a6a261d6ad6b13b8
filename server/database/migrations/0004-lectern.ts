import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** What counts of a stretch, takes without a voice, what a recording turned out to be, and how fast a person speaks. */
export const lectern: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table stretch
        add column voice boolean not null default true,
        add column kept_ms integer check (kept_ms >= 0),
        add column loudness real,
        add column camera_lost_ms integer not null default 0 check (camera_lost_ms >= 0);
      alter table stretch alter column voice drop default;
      -- source: the rehearsal or take that was heard
      create table speech (
        source uuid not null,
        n integer not null check (n >= 0),
        talk uuid not null references talk on delete cascade,
        words integer not null check (words >= 0),
        spoken_ms integer not null check (spoken_ms >= 0),
        heard timestamptz not null default now(),
        primary key (source, n)
      );
      create index speech_talk on speech (talk);
    `.execute(db)
  },
}
