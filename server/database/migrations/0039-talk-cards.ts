import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** What the page of all talks shows of each, kept ready. People go on meanwhile; what they change is seen to by the next. */
export const talkCards: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      -- names in the order in which people count: 2 before 10
      create collation people_order (provider = icu, locale = 'und-u-kn-true');
      create table talk_card (
        talk uuid primary key,
        -- as its talk has them
        owner uuid not null,
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
      insert into talk_card (talk, owner, name, changed, demo)
        select id, owner, name, changed, demo from talk where deleted is null;
      create index talk_card_changed on talk_card (owner, changed desc, talk);
      create index talk_card_waits on talk_card (owner, waits, changed desc, talk);
      create index talk_card_name on talk_card (owner, name collate people_order, talk);
      create index talk_card_stale on talk_card (owner) where made is distinct from version;
    `.execute(db)
  },
}
