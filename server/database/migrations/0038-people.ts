import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Operators, links that open an account, identities of other providers, places signed in at, and what each person may keep. */
export const people: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      -- who signs in by a provider has an address and no password
      alter table person drop constraint person_check;
      alter table person add constraint person_password check (password is null or email is not null);
      alter table person
        add column operator boolean not null default false,
        -- since when nobody signs in by it; null: it is open
        add column blocked timestamptz,
        -- when the address was shown to be theirs
        add column verified timestamptz,
        -- since when it is to go; null: it stays
        add column leaving timestamptz,
        -- what this person may keep and have made; null: as everybody
        add column most_bytes bigint check (most_bytes >= 0),
        add column most_film_minutes integer check (most_film_minutes >= 0),
        add column most_recordings integer check (most_recordings >= 0);
      create index person_leaving on person (leaving) where leaving is not null;
      create table person_link (
        -- of its key, which is in the letter alone
        digest text primary key,
        kind text not null check (kind in ('invite', 'verify', 'reset')),
        address text not null,
        -- whose; null: they are still to make an account
        person uuid references person on delete cascade,
        operator boolean not null default false,
        made_by uuid references person on delete set null,
        made timestamptz not null default now(),
        until timestamptz not null,
        check ((kind = 'invite') = (person is null))
      );
      create index person_link_address on person_link (address);
      create index person_link_person on person_link (person);
      create index person_link_made_by on person_link (made_by);
      create table identity (
        issuer text not null,
        subject text not null,
        person uuid not null references person on delete cascade,
        made timestamptz not null default now(),
        primary key (issuer, subject)
      );
      create index identity_person on identity (person);
      alter table signed_in
        add column agent text not null default '' check (length(agent) <= 100),
        add column seen timestamptz not null default now();
      alter table talk
        -- when its owner was told that it goes, as nobody has touched it for so long
        add column told_untouched timestamptz;
      create index talk_changed on talk (changed) where deleted is null;
    `.execute(db)
  },
}
