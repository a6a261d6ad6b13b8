import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Older revisions of a programme are kept by how they differ from the one after them, with a whole one now and then. */
export const differences: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table programme
        alter column value drop not null,
        -- what makes of the revision after this one this one
        add column difference jsonb,
        -- those that are there are looked through without holding anybody up, by the next
        add constraint programme_kept check ((value is null) <> (difference is null)) not valid;
      create index programme_whole on programme (made) where value is not null;
    `.execute(db)
  },
}
