import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Which store the media of this database are in: machines that were set to another one are told. */
export const storeIdentity: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      create table store_identity (
        id uuid not null,
        -- there is one
        single boolean primary key default true check (single)
      );
    `.execute(db)
  },
}
