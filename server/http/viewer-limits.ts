import { createHash } from 'node:crypto'
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible'
import { Refusal } from '@core/model'
import { databasePool } from '@server/database'

/**
 * What one address on the network may do in a quarter of an hour: try links that open nothing (a class may share one address, and one
 * wrong link), and ask questions.
 */
const MOST = { link: 60, question: 40 } as const
const WINDOW = 15 * 60

const known = new Map<keyof typeof MOST, RateLimiterPostgres>()
/** Counted in the database, as attempts to sign in are; addresses are kept as digests. */
function limiterOf(kind: keyof typeof MOST): RateLimiterPostgres {
  const limiter =
    known.get(kind) ??
    new RateLimiterPostgres({
      storeClient: databasePool(),
      storeType: 'pool',
      tableName: 'attempt',
      tableCreated: true,
      clearExpiredByTimeout: false,
      keyPrefix: kind,
      points: MOST[kind],
      duration: WINDOW,
    })
  known.set(kind, limiter)
  return limiter
}
const keyOf = (network: string): string => createHash('sha256').update(network).digest('base64url')

/** Whether it was one more than may be. */
async function consume(kind: keyof typeof MOST, network: string): Promise<boolean> {
  try {
    await limiterOf(kind).consume(keyOf(network))
    return false
  } catch (error) {
    if (error instanceof RateLimiterRes) return true
    throw error
  }
}

/** Somebody tried a link that opens nothing. */
export async function countWrongKey(network: string): Promise<void> {
  await consume('link', network)
}

/** @throws Refusal `too-many` to who has tried too many links that open nothing */
export async function refuseGuesser(network: string): Promise<void> {
  const found = await limiterOf('link').get(keyOf(network))
  if (found !== null && found.consumedPoints > MOST.link)
    throw new Refusal('too-many', 'Too many links that open nothing were tried from here. Wait a quarter of an hour.')
}

/** Somebody asks something. @throws Refusal `too-many` */
export async function countQuestion(network: string): Promise<void> {
  if (await consume('question', network))
    throw new Refusal(
      'too-many',
      'Many questions were sent from here just now. Yours is still in its field: send it in a quarter of an hour.',
    )
}
