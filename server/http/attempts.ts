import { getRequestHeader } from 'h3'
import type { H3Event } from 'h3'
import { RateLimiterRes } from 'rate-limiter-flexible'
import type { RateLimiterPostgres } from 'rate-limiter-flexible'
import { Refusal } from '@core/model'
import { settings } from '@server/settings'
import { countedAs, limiterOf } from './limiter'

/**
 * Attempts that may fail in a quarter of an hour: from one address on the network, for one account from there, and for one account from
 * anywhere.
 */
const MOST = { network: 60, accountFromNetwork: 8, account: 100 } as const

interface Counter {
  readonly limiter: RateLimiterPostgres
  readonly key: (network: string, email: string) => string
  /** Whether all that was counted is forgotten once somebody signs in. */
  readonly forgets: boolean
}

let known: readonly Counter[] | undefined

function counters(): readonly Counter[] {
  return (known ??= [
    { limiter: limiterOf('network', MOST.network), key: (network) => countedAs(network), forgets: false },
    { limiter: limiterOf('both', MOST.accountFromNetwork), key: (network, email) => countedAs(`${network} ${email}`), forgets: true },
    { limiter: limiterOf('account', MOST.account), key: (_, email) => countedAs(email), forgets: false },
  ])
}

/** Where a request comes from: the last address that is not one of our own proxies'. Whatever else the header says may be made up. */
export function networkOf(event: H3Event): string {
  const socket = event.node.req.socket.remoteAddress ?? 'unknown'
  const proxies = settings().trustedProxies
  if (proxies === 0) return socket
  const said = (getRequestHeader(event, 'x-forwarded-for') ?? '')
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '')
  return said[said.length - proxies] ?? socket
}

/** Counts an attempt before it is judged, so that many at once count too. @throws Refusal `too-many` */
export async function countAttempt(network: string, email: string): Promise<void> {
  for (const { limiter, key } of counters()) {
    try {
      await limiter.consume(key(network, email))
    } catch (error) {
      if (!(error instanceof RateLimiterRes)) throw error
      const minutes = Math.max(1, Math.ceil(error.msBeforeNext / 60_000))
      throw new Refusal('too-many', `Too many attempts to sign in. Try again in ${String(minutes)} minutes.`)
    }
  }
}

/** Somebody signed in: that was no failure, and their earlier mistakes from there no longer count. */
export async function forgiveAttempt(network: string, email: string): Promise<void> {
  for (const { limiter, key, forgets } of counters()) {
    if (forgets) await limiter.delete(key(network, email))
    else await limiter.reward(key(network, email), 1)
  }
}
