import type pg from 'pg'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { connect } from './connect'
import type { Database } from './connect'

/** A statement that takes longer than this is broken off, in ms: whoever waits for it has gone. */
const STATEMENT = 120_000
/** Most connections of a process: each queue of a worker listens on one. */
const CONNECTIONS = 16

let opened: { readonly db: Database; readonly pool: pg.Pool } | undefined

const open = (): { readonly db: Database; readonly pool: pg.Pool } =>
  (opened ??= connect(
    settings().databaseUrl,
    (message) => {
      log.warn(message)
    },
    { statementTimeout: STATEMENT, most: CONNECTIONS },
  ))

/** The database of this process. */
export const database = (): Database => open().db
/** Its pool, for what is not a query: listening, jobs. */
export const databasePool = (): pg.Pool => open().pool
