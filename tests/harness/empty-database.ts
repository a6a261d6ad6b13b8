import pg from 'pg'
import { runMigrations } from 'graphile-worker'
import { connect, migrate } from '@server/database/connect'

/** What databases of products under test are copies of. */
const EMPTY = 'aisle_empty'
/** Whoever comes while it is being made waits here. */
const LOCK = 4391

/** Address of a database of a server. */
export function databaseAt(cluster: string, name: string): string {
  const url = new URL(cluster)
  url.pathname = `/${name}`
  return url.href
}

async function makeEmpty(admin: pg.Client, cluster: string): Promise<void> {
  const { rowCount } = await admin.query('select from pg_database where datname = $1', [EMPTY])
  if (rowCount !== 0) return
  const half = `${EMPTY}_half`
  await admin.query(`create database ${half}`)
  const url = databaseAt(cluster, half)
  const { db } = connect(url, () => undefined)
  await migrate(db)
  await db.destroy()
  await runMigrations({ connectionString: url })
  await admin.query(`alter database ${half} rename to ${EMPTY}`)
}

/**
 * Makes a database with the schema of now and nothing in it: a copy, since bringing one up from the first version takes seconds.
 * @param cluster address of a database server
 * @param name of the new database
 * @returns its address
 */
export async function emptyDatabase(cluster: string, name: string): Promise<string> {
  const admin = new pg.Client({ connectionString: cluster })
  await admin.connect()
  try {
    await admin.query('select pg_advisory_lock($1)', [LOCK])
    await makeEmpty(admin, cluster)
    await admin.query(`create database ${name} template ${EMPTY}`)
  } finally {
    await admin.end()
  }
  return databaseAt(cluster, name)
}
