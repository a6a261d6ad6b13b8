import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/**
 * Who does what, by numbers that rise, so that whoever was taken for dead puts nothing where another has begun anew; what files that must
 * not be lost held when they were called ready; where a stretch was found in its recording, beside what its page said, which stays for
 * when more of it comes; and how much of a stretch has come, so that it can be bounded.
 */
export const claimsAndDigests: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create sequence claim_number;
      create table claim (
        name text primary key,
        number bigint not null,
        since timestamptz not null default now()
      );
      alter table stretch add column raw_digest text, add column recording_digest text, add column voice_digest text;
      alter table stretch add column picture_at real, add column sound_at real;
      update stretch set picture_at = offset_picture, sound_at = offset_sound where state = 'ready';
      alter table stretch add column bytes bigint not null default 0 check (bytes >= 0);
      update stretch set bytes = came.bytes from (select stretch, sum(bytes) as bytes from slice group by stretch) as came
        where came.stretch = stretch.id;
      alter table delivery add column digest text;
    `.execute(db)
  },
}
