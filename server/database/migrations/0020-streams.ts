import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Talks as films of several sizes for those who watch them, made once for each version that is shown. */
export const streams: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table stream (
        talk uuid not null references talk on delete cascade,
        programme_revision integer not null,
        lines integer not null check (lines > 0),
        width integer not null check (width > 0),
        height integer not null check (height > 0),
        frame_rate integer not null check (frame_rate > 0),
        -- most bits a second
        bandwidth integer not null check (bandwidth > 0),
        codec text not null,
        -- where each part lies in its file (RFC 8216)
        playlist text not null,
        made timestamptz not null default now(),
        primary key (talk, programme_revision, lines)
      );
    `.execute(db)
  },
}
