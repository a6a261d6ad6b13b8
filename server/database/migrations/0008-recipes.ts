import { sql } from 'kysely'
import type { Kysely, Migration } from 'kysely'

/** Recipes say how many frames a second a file has and what is left out of it; those kept before meant 30 and nothing. */
export const recipes: Migration = {
  async up(db: Kysely<unknown>) {
    for (const table of ['talk', 'delivery']) {
      await sql`update ${sql.table(table)} 
        set recipe = '{"rate": 30, "without": {"face": false, "ink": false, "voice": false}}'::jsonb || recipe`.execute(db)
    }
  },
}
