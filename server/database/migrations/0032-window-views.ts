import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** A window that is shown during a stretch is recorded beside it, with full-size pictures of it at rest. */
export const windowViews: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table stretch add column window_of uuid references stretch on delete cascade;
      alter table stretch add column window_view jsonb;
      alter table stretch add column stills jsonb;
      alter table stretch add constraint stretch_window check ((window_of is null) = (window_view is null));
      create index stretch_window_of on stretch (window_of);
    `.execute(db)
  },
}
