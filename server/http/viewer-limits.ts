import { RateLimiterRes } from 'rate-limiter-flexible'
import type { RateLimiterPostgres } from 'rate-limiter-flexible'
import { Refusal } from '@core/model'
import { countedAs, limiterOf } from './limiter'

/**
 * What one address on the network may do in a quarter of an hour: try links that open nothing (a class may share one address, and one
 * wrong link), ask questions, say phrases, and have letters sent, tell how they watch, begin talks for calls; and letters that may go to
 * one address.
 */
const MOST = { link: 60, question: 40, phrase: 60, letters: 60, letter: 8, watched: 2000, begin: 120 } as const

const known = new Map<keyof typeof MOST, RateLimiterPostgres>()
function limiter(kind: keyof typeof MOST): RateLimiterPostgres {
  const found = known.get(kind) ?? limiterOf(kind, MOST[kind])
  known.set(kind, found)
  return found
}

/** Whether it was one more than may be. */
async function consume(kind: keyof typeof MOST, network: string): Promise<boolean> {
  try {
    await limiter(kind).consume(countedAs(network))
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
  const found = await limiter('link').get(countedAs(network))
  if (found !== null && found.consumedPoints > MOST.link)
    throw new Refusal('too-many', 'Too many links that open nothing were tried from here. Wait a quarter of an hour.')
}

/** Somebody says a phrase. @throws Refusal `too-many` */
export async function countPhrase(network: string): Promise<void> {
  if (await consume('phrase', network)) throw new Refusal('too-many', 'Too many phrases were tried from here. Wait a quarter of an hour.')
}

/** Somebody has a letter sent to an address. @throws Refusal `too-many` */
export async function countLetter(network: string, address: string): Promise<void> {
  // Both are counted: one person may write to few addresses, and many to one as well.
  const counted = [await consume('letters', network), await consume('letter', address)]
  if (counted.includes(true))
    throw new Refusal(
      'too-many',
      'Several letters were sent already. Look among them, also with those you do not want; or wait a quarter of an hour.',
    )
}

/** Somebody tells how they watch. @throws Refusal `too-many` */
export async function countWatched(network: string): Promise<void> {
  if (await consume('watched', network)) throw new Refusal('too-many', 'Too much is told from here of how talks are watched.')
}

/** Somebody asks something. @throws Refusal `too-many` */
export async function countQuestion(network: string): Promise<void> {
  if (await consume('question', network))
    throw new Refusal(
      'too-many',
      'Many questions were sent from here just now. Yours is still in its field: send it in a quarter of an hour.',
    )
}

/** Somebody begins a talk for a call. @throws Refusal `too-many` */
export async function countBegin(network: string): Promise<void> {
  if (await consume('begin', network))
    throw new Refusal('too-many', 'Many talks were begun from here just now. Begin in a quarter of an hour.')
}
