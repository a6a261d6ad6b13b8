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
        -- as its talk has them
        owner uuid not null references person on delete cascade,
        name text not null,
        changed timestamptz not null,
        demo boolean not null,
        -- rises with every change of what the card shows
        version bigint not null default 0,
        -- the version that the card is of; null: none was made yet
        made bigint,
        card jsonb,
        -- what the talk waits for, the least patient first
        waits smallint,
        check ((made is null) = (card is null))
      );
      create index talk_card_changed on talk_card (owner, changed desc, talk);
      create index talk_card_waits on talk_card (owner, waits, changed desc, talk);
      create index talk_card_name on talk_card (owner, name collate people_order, talk);
      create index talk_card_stale on talk_card (owner) where made is distinct from version;
      -- there is a card of each talk that was not deleted
      create function keep_talk_card() returns trigger language plpgsql as $$
        begin
          if new.deleted is not null then
            delete from talk_card where talk = new.id;
          else
            insert into talk_card (talk, owner, name, changed, demo) values (new.id, new.owner, new.name, new.changed, new.demo)
            on conflict (talk) do update
              set owner = excluded.owner, name = excluded.name, changed = excluded.changed, demo = excluded.demo;
          end if;
          return null;
        end $$;
      create trigger talk_card_follows after insert or update of owner, name, changed, demo, deleted on talk
        for each row execute function keep_talk_card();
      insert into talk_card (talk, owner, name, changed, demo)
        select id, owner, name, changed, demo from talk where deleted is null;
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
