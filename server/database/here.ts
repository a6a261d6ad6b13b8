import type pg from 'pg'
import { log } from '@server/log'
import { settings } from '@server/settings'
import { connect } from './connect'
import type { Database } from './connect'

let opened: { readonly db: Database; readonly pool: pg.Pool } | undefined

const open = (): { readonly db: Database; readonly pool: pg.Pool } =>
  (opened ??= connect(settings().databaseUrl, (message) => {
    log.warn(message)
  }))

/** The database of this process. */
export const database = (): Database => open().db
/** Its pool, for what is not a query: listening, jobs. */
export const databasePool = (): pg.Pool => open().pool
