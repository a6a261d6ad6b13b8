import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** People, talks, decks, takes, programmes, deliveries. */
export const first: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table person (
        id uuid primary key,
        name text not null check (length(name) between 1 and 100),
        email text unique check (email = lower(email)),
        password text,
        created timestamptz not null default now(),
        check ((email is null) = (password is null))
      );
      create table talk (
        id uuid primary key,
        owner uuid not null references person on delete cascade,
        name text not null check (length(name) between 1 and 160),
        limit_ms integer check (limit_ms > 0),
        shape jsonb not null,
        revision integer not null default 0,
        programme_revision integer not null default 0,
        recipe jsonb not null,
        created timestamptz not null default now(),
        changed timestamptz not null default now(),
        deleted timestamptz
      );
      create index talk_owner on talk (owner) where deleted is null;
      create table slide (
        id uuid primary key,
        talk uuid not null references talk on delete cascade,
        position integer check (position >= 0),
        version integer not null check (version >= 1),
        title text not null,
        notes text not null,
        planned_ms integer check (planned_ms >= 0),
        skip boolean not null,
        -- of the talk's deck, when this slide was last changed
        changed_revision integer not null default 0,
        unique (talk, position) deferrable initially deferred
      );
      create table slide_version (
        slide uuid not null references slide on delete cascade,
        version integer not null,
        steps jsonb not null check (jsonb_array_length(steps) >= 1),
        framing jsonb,
        primary key (slide, version)
      );
      alter table slide add foreign key (id, version) references slide_version (slide, version) deferrable initially deferred;
      create table asset (
        talk uuid not null references talk on delete cascade,
        digest text not null check (digest ~ '^[0-9a-f]{64}$'),
        mime text not null,
        bytes bigint not null check (bytes >= 0),
        primary key (talk, digest)
      );
      create table import (
        id uuid primary key,
        talk uuid not null references talk on delete cascade,
        name text not null,
        files jsonb not null,
        state text not null check (state in ('queued', 'reading', 'done', 'failed')),
        pages_done integer not null default 0,
        pages_total integer,
        sentence text,
        created timestamptz not null default now()
      );
      create index import_talk on import (talk);
      create table take (
        id uuid primary key,
        talk uuid not null references talk on delete cascade,
        kind text not null check (kind in ('full', 'retake', 'dub', 'rehearsal')),
        intent jsonb not null,
        state text not null check (state in ('open', 'closing', 'closed', 'failed', 'discarded')),
        sentence text,
        started timestamptz not null default now(),
        discarded timestamptz,
        check ((state = 'discarded') = (discarded is not null))
      );
      create index take_talk on take (talk);
      create table stretch (
        id uuid primary key,
        take uuid not null references take on delete cascade,
        number integer not null check (number >= 0),
        camera boolean not null,
        mime text not null,
        opening jsonb not null,
        length_ms integer check (length_ms >= 0),
        slices integer,
        cues integer,
        offset_picture real not null default 0,
        offset_sound real not null default 0,
        state text not null check (state in ('open', 'closing', 'ready', 'failed')),
        peaks jsonb,
        unique (take, number),
        check (state <> 'ready' or length_ms is not null)
      );
      create table slice (
        stretch uuid not null references stretch on delete cascade,
        n integer not null check (n >= 0),
        bytes integer not null check (bytes >= 0),
        digest text not null check (digest ~ '^[0-9a-f]{64}$'),
        primary key (stretch, n)
      );
      create table cue (
        stretch uuid not null references stretch on delete cascade,
        n integer not null check (n >= 0),
        cue jsonb not null,
        primary key (stretch, n)
      );
      create table programme (
        talk uuid not null references talk on delete cascade,
        revision integer not null check (revision >= 1),
        value jsonb not null,
        reason text not null,
        made timestamptz not null default now(),
        primary key (talk, revision)
      );
      create table delivery (
        id uuid primary key,
        talk uuid not null references talk on delete cascade,
        number integer generated always as identity,
        recipe jsonb not null,
        programme_revision integer not null,
        file text not null,
        state text not null check (state in ('queued', 'making', 'checking', 'done', 'failed', 'cancelled')),
        length_ms integer not null,
        width integer not null,
        height integer not null,
        frames_done integer not null default 0,
        frames_total integer not null,
        time_left_ms integer,
        estimate jsonb not null,
        sentence text,
        facts jsonb,
        created timestamptz not null default now(),
        foreign key (talk, programme_revision) references programme,
        check (state <> 'done' or facts is not null)
      );
      create unique index delivery_file on delivery (talk, file) where state in ('queued', 'making', 'checking', 'done');
      create index delivery_talk on delivery (talk);
      create table worker (
        id text primary key,
        seen timestamptz not null default now()
      );
    `.execute(db)
  },
}
