import type { Kysely, Migration } from 'kysely'

/** A stretch that was cut off may have a piece of its voice beyond what its recording holds. */
export const tails: Migration = {
  async up(db: Kysely<unknown>) {
    await db.schema.alterTable('stretch').addColumn('tail', 'jsonb').execute()
  },
}
