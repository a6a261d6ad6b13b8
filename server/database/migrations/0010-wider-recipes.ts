import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/**
 * Recipes say the kind of file, its part of the talk and what bounds it; those kept before meant an MP4 of it all. Recipes can be
 * kept for other talks. A file can be of no programme (a slide show of planned times), wait until a time, stand still, and be put first.
 */
export const widerRecipes: Migration = {
  async up(db: Kysely<unknown>) {
    const usual = JSON.stringify({
      format: 'mp4',
      size: null,
      bits: { kind: 'free' },
      loudness: -16,
      part: { kind: 'all' },
      timing: 'recorded',
      each: 'talk',
      fields: {},
    })
    for (const table of ['talk', 'delivery']) {
      await sql`update ${sql.table(table)} set recipe = ${usual}::jsonb || recipe`.execute(db)
    }
    await sql`
      alter table delivery alter column programme_revision drop not null;
      alter table delivery drop constraint delivery_state_check;
      alter table delivery add constraint delivery_state_check check (state in ('queued', 'paused', 'making', 'checking', 'done',
        'failed', 'cancelled'));
      alter table delivery add column starts timestamptz;
      alter table delivery add column place integer not null default 0;
      alter table delivery add column turn integer not null default 0;
      drop index delivery_file;
      create unique index delivery_file on delivery (talk, file) where state in ('queued', 'paused', 'making', 'checking', 'done');
      create table preset (
        id uuid primary key,
        owner uuid not null references person on delete cascade,
        name text not null check (length(name) between 1 and 60),
        preset jsonb not null,
        made timestamptz not null default now(),
        unique (owner, name)
      );
    `.execute(db)
  },
}
