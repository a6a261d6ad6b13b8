import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Who changed a programme, what a change took back, and versions that were given a name. */
export const history: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table programme
        -- the browser that made it; null before that was noted
        add column author uuid,
        add column role text not null default 'edit' check (role in ('edit', 'undo', 'redo')),
        -- of the whole talk, so that the history need not read every programme
        add column length_ms integer not null default 0 check (length_ms >= 0),
        -- the revision that an undo or redo took back
        add column takes_back integer,
        add constraint programme_takes_back check ((role = 'edit') = (takes_back is null)),
        add foreign key (talk, takes_back) references programme (talk, revision);
      update programme set length_ms = coalesce((
        select sum(case when piece ->> 'kind' = 'still' then (piece ->> 'length')::integer
          else round(((piece -> 'show' ->> 'to')::numeric - (piece -> 'show' ->> 'from')::numeric)
            * (piece -> 'rate' ->> 'den')::numeric / (piece -> 'rate' ->> 'num')::numeric) end)
        from jsonb_array_elements(value -> 'pieces') as piece), 0);
      create table named_version (
        talk uuid not null,
        revision integer not null,
        name text not null check (length(name) between 1 and 80),
        made timestamptz not null default now(),
        primary key (talk, revision),
        foreign key (talk, revision) references programme on delete cascade
      );
    `.execute(db)
  },
}
