import type { H3Event } from 'h3'
import { Refusal } from '@core/model'
import { networkOf } from './attempts'
import { countWrongKey, refuseGuesser } from './viewer-limits'

/**
 * Looks at a key that somebody brings, unless too many that open nothing were brought from where they are.
 * @throws Refusal `too-many`; what `look` throws
 */
export async function guarded<Result>(event: H3Event, look: () => Promise<Result>): Promise<Result> {
  const network = networkOf(event)
  await refuseGuesser(network)
  try {
    return await look()
  } catch (error) {
    if (error instanceof Refusal && error.code === 'not-found') await countWrongKey(network)
    throw error
  }
}
