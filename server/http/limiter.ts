import { createHash } from 'node:crypto'
import { RateLimiterPostgres } from 'rate-limiter-flexible'
import { databasePool } from '@server/database'

/** How long it is counted, in s. */
const WINDOW = 15 * 60

/**
 * Counts what somebody may do so often in a quarter of an hour, in the database, so that all processes count together and a restart
 * forgets nothing.
 * @param keyPrefix tells what is counted from what else is
 */
export const limiterOf = (keyPrefix: string, points: number): RateLimiterPostgres =>
  new RateLimiterPostgres({
    storeClient: databasePool(),
    storeType: 'pool',
    tableName: 'attempt',
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix,
    points,
    duration: WINDOW,
  })

/** Names and addresses are kept as digests. */
export const countedAs = (text: string): string => createHash('sha256').update(text).digest('base64url')
