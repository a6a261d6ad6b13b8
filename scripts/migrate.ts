import { runMigrations } from 'graphile-worker'
import { database, databasePool, migrate } from '@server/database'

/** Brings the database up to date: our tables, then those of the job runner. */
const done = await migrate(database())
await runMigrations({ pgPool: databasePool() })
await database().destroy()
if (done.length > 0) console.log(`Database brought up to date: ${done.join(', ')}`)
