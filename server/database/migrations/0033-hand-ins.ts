import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Rules that talks are handed in by, places that files are sent to, and what was sent. */
export const handIns: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table rule_set (
        id uuid primary key,
        owner uuid not null references person on delete cascade,
        name text not null check (length(name) between 1 and 80),
        rules jsonb not null,
        made timestamptz not null default now(),
        unique (owner, name)
      );
      create table hand_in (
        talk uuid primary key references talk on delete cascade,
        rules jsonb not null,
        -- where they came from, and where the talk is handed in
        desk text check (length(desk) <= 500),
        fields jsonb not null default '{}',
        -- a slide of the talk; one that is gone counts as the first
        cover uuid
      );
      create table place (
        id uuid primary key,
        owner uuid not null references person on delete cascade,
        name text not null check (length(name) between 1 and 60),
        kind text not null check (kind in ('webdav', 'tus')),
        address text not null check (length(address) <= 500),
        username text not null check (length(username) <= 200),
        -- sealed with the server's secret; null: nothing signs in
        word bytea,
        made timestamptz not null default now(),
        unique (owner, name)
      );
      create table sending (
        id uuid primary key,
        talk uuid not null references talk on delete cascade,
        -- the receipt stays when the file goes
        delivery uuid references delivery on delete set null,
        number bigint generated always as identity,
        kind text not null check (kind in ('desk', 'site', 'place')),
        recipient text not null,
        address text not null,
        place uuid references place on delete set null,
        file text not null,
        digest text check (digest ~ '^[0-9a-f]{64}$'),
        state text not null default 'queued' check (state in ('queued', 'sending', 'done', 'refused', 'failed', 'cancelled')),
        sent bigint not null default 0 check (sent >= 0),
        total bigint not null check (total >= sent),
        -- what goes with the file: fields, or what is said of it
        notes jsonb not null,
        -- where it goes on after a break
        resume jsonb not null default '{}',
        sentence text,
        receipt jsonb,
        created timestamptz not null default now(),
        check ((receipt is null) or state = 'done')
      );
      create index sending_talk on sending (talk, number);
      create index sending_delivery on sending (delivery);
      create index sending_place on sending (place);
      alter table letter add column delivery uuid references delivery on delete set null;
      create index letter_delivery on letter (delivery);
    `.execute(db)
  },
}
