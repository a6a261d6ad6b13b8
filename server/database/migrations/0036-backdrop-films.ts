import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Cameras with other backdrops, as films beside their recordings. */
export const backdropFilms: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table backdrop_film (
        id uuid primary key,
        stretch uuid not null references stretch on delete cascade,
        -- names all that decides it
        name text not null unique check (name ~ '^[0-9a-f]{64}$'),
        backdrop jsonb not null,
        state text not null default 'queued' check (state in ('queued', 'making', 'done', 'failed')),
        share real not null default 0 check (share between 0 and 1),
        time_left_ms integer check (time_left_ms >= 0),
        sentence text,
        length_ms integer check (length_ms >= 0),
        took_ms integer check (took_ms >= 0),
        made timestamptz not null default now()
      );
      create index backdrop_film_stretch on backdrop_film (stretch);
    `.execute(db)
  },
}
