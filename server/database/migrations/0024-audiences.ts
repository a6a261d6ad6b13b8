import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Who may see a talk beside those who have its link: people by address, groups, everybody; and letters to them. */
export const audiences: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table viewer_group (
        id uuid primary key,
        owner uuid not null references person on delete cascade,
        name text not null check (length(name) between 1 and 100),
        made timestamptz not null default now()
      );
      create index viewer_group_owner on viewer_group (owner);
      create table group_member (
        viewer_group uuid not null references viewer_group on delete cascade,
        -- in small letters
        address text not null check (address = lower(address) and length(address) between 3 and 254),
        name text not null check (length(name) <= 100),
        primary key (viewer_group, address)
      );
      alter table share drop constraint share_level_check;
      alter table share add check (level in ('closed', 'link', 'people', 'group', 'shelf'));
      alter table share add column until timestamptz;
      -- scrypt of it, salted
      alter table share add column phrase text;
      alter table share add column viewer_group uuid references viewer_group on delete set null;
      alter table share add column embed_on text[] not null default '{}';
      create index share_viewer_group on share (viewer_group);
      create table share_person (
        talk uuid not null references share on delete cascade,
        address text not null check (address = lower(address) and length(address) between 3 and 254),
        name text not null check (length(name) <= 100),
        primary key (talk, address)
      );
      -- what is sent to an address to show that it is somebody's: used once
      create table viewer_ticket (
        digest text primary key,
        talk uuid not null references share on delete cascade,
        address text not null,
        until timestamptz not null,
        used timestamptz
      );
      create index viewer_ticket_until on viewer_ticket (until);
      create table letter (
        id uuid primary key,
        owner uuid not null references person on delete cascade,
        recipient text not null,
        subject text not null,
        -- gone once it is sent: it may open something
        body text,
        state text not null default 'waiting' check (state in ('waiting', 'kept', 'sent', 'failed')),
        -- what the mail server said when it did not take it
        said text,
        made timestamptz not null default now(),
        check (body is not null or state in ('sent', 'failed'))
      );
      create index letter_owner on letter (owner, made);
    `.execute(db)
  },
}
