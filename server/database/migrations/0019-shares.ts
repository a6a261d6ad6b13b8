import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Who may see a talk on its screening page, and what they asked there. */
export const shares: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table share (
        talk uuid primary key references talk on delete cascade,
        -- 128 bits in base64url; whoever has it has the link
        key text not null unique check (key ~ '^[A-Za-z0-9_-]{22}$'),
        level text not null default 'closed' check (level in ('closed', 'link')),
        presenter text not null default '' check (length(presenter) <= 100),
        description text not null default '' check (length(description) <= 4000),
        handout boolean not null default true,
        viewer_notes boolean not null default true,
        -- a finished file that may be taken along
        film uuid references delivery on delete set null,
        questions boolean not null default true,
        changed timestamptz not null default now()
      );
      create index share_film on share (film);
      create table question (
        id uuid primary key,
        talk uuid not null references share on delete cascade,
        -- the visit that was on, and how far into it that was: it goes wherever that goes
        visit text not null check (length(visit) <= 200),
        into_ms integer not null check (into_ms >= 0),
        name text not null check (length(name) <= 100),
        words text not null check (length(words) between 1 and 2000),
        asked timestamptz not null default now(),
        answer text check (length(answer) <= 4000),
        answered timestamptz,
        -- whether everybody who watches may read it
        open boolean not null default false,
        check ((answer is null) = (answered is null)),
        check (not open or answer is not null)
      );
      create index question_talk on question (talk, asked);
    `.execute(db)
  },
}
