import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Calls for talks, who takes part in them, and what they handed in. */
export const calls: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      -- somebody without an account, who has talks for calls alone
      alter table person add column guest boolean not null default false;
      create table call (
        id uuid primary key,
        owner uuid not null references person on delete cascade,
        -- whoever has it has the link
        key text not null unique,
        title text not null check (length(title) between 1 and 160),
        asks text not null check (length(asks) <= 4000),
        rules jsonb not null,
        rules_version integer not null default 1,
        until timestamptz not null,
        late text not null check (late in ('refused', 'marked')),
        faulty text not null check (faulty in ('refused', 'marked')),
        audience text not null check (audience in ('link', 'group', 'people')),
        viewer_group uuid references viewer_group on delete set null,
        accounts boolean not null,
        address text not null check (address in ('no', 'optional', 'required')),
        deck uuid references talk on delete set null,
        deleted timestamptz,
        made timestamptz not null default now()
      );
      create index call_owner on call (owner);
      create index call_group on call (viewer_group);
      create index call_deck on call (deck);
      create index call_deleted on call (deleted) where deleted is not null;
      create table call_person (
        call uuid not null references call on delete cascade,
        address text not null,
        name text not null,
        primary key (call, address)
      );
      create table entrant (
        id uuid primary key,
        call uuid not null references call on delete cascade,
        -- null: not begun
        person uuid references person on delete set null,
        talk uuid unique references talk on delete set null,
        name text not null check (length(name) <= 100),
        address text,
        -- of the link that is theirs: an older one opens nothing
        link_number integer not null default 1,
        rules_version integer not null,
        begun timestamptz,
        invited timestamptz,
        reminded timestamptz,
        unique (call, address)
      );
      create index entrant_person on entrant (person);
      create table entry (
        id uuid primary key,
        entrant uuid not null references entrant on delete cascade,
        number bigint generated always as identity,
        -- null: recorded elsewhere, or deleted since
        delivery uuid references delivery on delete set null,
        brought boolean not null,
        state text not null check (state in ('making', 'checking', 'taken', 'refused')),
        at timestamptz not null default now(),
        late boolean not null,
        title text not null,
        file text not null,
        fields jsonb not null,
        digest text check (digest ~ '^[0-9a-f]{64}$'),
        facts jsonb,
        lines jsonb not null default '[]',
        companions jsonb not null default '[]',
        sentence text,
        review text not null default 'unseen' check (review in ('unseen', 'seen', 'sent-back', 'accepted')),
        remark text not null default '' check (length(remark) <= 4000),
        remarked timestamptz,
        -- what was taken is there
        check (state <> 'taken' or (digest is not null and facts is not null))
      );
      create index entry_entrant on entry (entrant, number);
      create index entry_delivery on entry (delivery);
      create unique index entry_pending on entry (entrant) where state in ('making', 'checking');
      -- it holds a link that is its reader's alone
      alter table letter add column private boolean not null default false;
    `.execute(db)
  },
}
