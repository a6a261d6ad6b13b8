import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Indexes for what is asked often. */
export const oftenAsked: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      drop index talk_owner;
      create index talk_owner on talk (owner);
      create index share_level on share (level, changed desc, key);
      create index delivery_state on delivery (state, created) where state in ('queued', 'making', 'checking', 'failed');
      create index delivery_created on delivery (created);
      create index import_failed on import (created) where state = 'failed';
      create index import_under_way on import (talk) where state in ('queued', 'reading');
    `.execute(db)
  },
}
