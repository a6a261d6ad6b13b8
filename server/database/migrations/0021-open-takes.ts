import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** What is being recorded or made ready now is found without reading every take there ever was. */
export const openTakes: Migration = {
  async up(db: Kysely<unknown>) {
    await sql`create index take_open on take (seen) where state in ('open', 'closing')`.execute(db)
  },
}
