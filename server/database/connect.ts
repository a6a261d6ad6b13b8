import { Kysely, Migrator, PostgresDialect } from 'kysely'
import type { Transaction } from 'kysely'
import pg from 'pg'
import { migrations } from './migrations'
import type { Tables } from './tables'

export type Database = Kysely<Tables>
/** A connection or a transaction on one. */
export type Queries = Database | Transaction<Tables>

// Sizes of files pass 2^31; none passes 2^53.
pg.types.setTypeParser(pg.types.builtins.INT8, Number)

/** How a pool is used. */
export interface ConnectOptions {
  /** A statement that takes longer is broken off, in ms; 0: none is. */
  readonly statementTimeout?: number
  /** Most connections. */
  readonly most?: number
}

/** Opens a pool. A connection that breaks while idle is dropped and made again, as when the database restarts. */
export function connect(
  url: string,
  log: (message: string) => void,
  { statementTimeout = 0, most = 10 }: ConnectOptions = {},
): { readonly db: Database; readonly pool: pg.Pool } {
  const pool = new pg.Pool({
    connectionString: url,
    max: most,
    connectionTimeoutMillis: 5000,
    ...(statementTimeout === 0 ? {} : { statement_timeout: statementTimeout }),
    // Rows lie on a disk without a head that moves, or in memory: reading here and there costs about as much as reading on.
    options: '-c random_page_cost=1.1',
  })
  pool.on('error', (error) => {
    log(`database connection lost: ${error.message}`)
  })
  pool.on('connect', (client) => {
    client.on('error', () => undefined)
  })
  return { db: new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) }), pool }
}

/**
 * Brings the schema up to date, one migration after the other, so that none holds people up longer than itself; changes nothing when it is.
 * @returns names of the migrations that were run
 * @throws Error naming the migration that failed; it is rolled back whole
 */
export async function migrate(db: Database): Promise<readonly string[]> {
  const migrator = new Migrator({ db, provider: { getMigrations: () => Promise.resolve({ ...migrations }) } })
  const run: string[] = []
  for (;;) {
    const { error, results = [] } = await migrator.migrateUp()
    const [next] = results
    if (error !== undefined) throw new Error(`${next?.migrationName ?? 'migration'} failed`, { cause: error })
    if (next === undefined) return run
    run.push(next.migrationName)
  }
}
