import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/**
 * Whether a stretch was closed by who recorded it, or by somebody who took it for broken off: of the latter the rest may still come.
 * With which revision of the deck each slide of an import came, so that it is known whether somebody has worked on it since.
 */
export const lateParts: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`
      alter table stretch add column whole boolean not null default true;
      alter table import add column revisions jsonb;
    `.execute(db)
  },
}
