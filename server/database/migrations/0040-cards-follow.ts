import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Cards of talks follow what they are of. Nobody is held up by looking through those that are there. */
export const cardsFollow: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table talk_card
        add constraint talk_card_talk foreign key (talk) references talk on delete cascade not valid,
        add constraint talk_card_owner foreign key (owner) references person on delete cascade not valid;
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
        select id, owner, name, changed, demo from talk where deleted is null
          and (id, owner, name, changed, demo) not in (select talk, owner, name, changed, demo from talk_card)
        on conflict (talk) do update
          set owner = excluded.owner, name = excluded.name, changed = excluded.changed, demo = excluded.demo;
      delete from talk_card where talk not in (select id from talk where deleted is null);
    `.execute(db)
  },
}
