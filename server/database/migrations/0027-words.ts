import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** What is said in recordings, and what their presenters say was said. */
export const words: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table stretch_words (
        stretch uuid primary key references stretch on delete cascade,
        state text not null check (state in ('done', 'failed')),
        listened_by text check (listened_by in ('model', 'pauses')),
        said jsonb not null,
        sentence text,
        made timestamptz not null default now(),
        check ((listened_by is null) = (sentence is not null))
      );
      create table word_correction (
        id uuid primary key,
        stretch uuid not null references stretch on delete cascade,
        from_ms integer not null check (from_ms >= 0),
        until_ms integer not null check (until_ms > from_ms),
        text text not null check (length(text) <= 2000)
      );
      create index word_correction_stretch on word_correction (stretch, from_ms);
      alter table talk add column terms jsonb not null default '[]';
    `.execute(db)
    // Files that are there were made without.
    for (const [table, captions] of [
      ['talk', 'inside'],
      ['delivery', 'none'],
    ] as const) {
      await sql`update ${sql.table(table)} set recipe = ${JSON.stringify({ captions })}::jsonb || recipe`.execute(db)
    }
    await sql`update preset set preset = ${JSON.stringify({ captions: 'inside' })}::jsonb || preset`.execute(db)
  },
}
