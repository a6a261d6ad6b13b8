import { runMigrations } from 'graphile-worker'
import { connect, migrate } from '@server/database'
import { settings } from '@server/settings'

/** Brings the database up to date: our tables, then those of the job runner. */
const { db, pool } = connect(settings().databaseUrl, console.error)
const done = await migrate(db)
await runMigrations({ pgPool: pool })
await db.destroy()
if (done.length > 0) console.log(`Database brought up to date: ${done.join(', ')}`)
