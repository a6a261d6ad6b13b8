import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** What the page of all talks shows of each, kept ready; and indexes for what is asked often. */
export const talkCards: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      -- names in the order in which people count: 2 before 10
      create collation people_order (provider = icu, locale = 'und-u-kn-true');
      create table talk_card (
        talk uuid primary key references talk on delete cascade,
        -- rises with every change of what it shows
        version bigint not null default 0,
        -- the version that the card is of; null: none was made yet
        made bigint,
        card jsonb,
        -- what the talk waits for, the least patient first
        waits smallint,
        check ((made is null) = (card is null))
      );
      insert into talk_card (talk) select id from talk;
      drop index talk_owner;
      create index talk_owner on talk (owner);
      create index talk_of_owner on talk (owner, changed desc) where deleted is null;
      create index delivery_state on delivery (state, created) where state in ('queued', 'making', 'checking', 'failed');
      create index delivery_created on delivery (created);
      create index import_failed on import (created) where state = 'failed';
      create index import_under_way on import (talk) where state in ('queued', 'reading');
    `.execute(db)
  },
}
