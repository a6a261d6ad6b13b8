import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible'
import { Refusal } from '@core/model'

/** Attempts to sign in that one address on the network, and one account from it, may make in a quarter of an hour. */
const WINDOW = 15 * 60
const byNetwork = new RateLimiterMemory({ points: 60, duration: WINDOW })
const byAccount = new RateLimiterMemory({ points: 8, duration: WINDOW })

/** Counts an attempt before it is judged. @throws Refusal `too-many` */
export async function countAttempt(network: string, email: string): Promise<void> {
  try {
    await byNetwork.consume(network)
    await byAccount.consume(`${network} ${email}`)
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error
    const minutes = Math.max(1, Math.ceil(error.msBeforeNext / 60_000))
    throw new Refusal('too-many', `Too many attempts to sign in. Try again in ${String(minutes)} minutes.`)
  }
}

/** Somebody signed in: their earlier mistakes no longer count. */
export const forgiveAttempts = async (network: string, email: string): Promise<void> => {
  await byAccount.delete(`${network} ${email}`)
}
