import pLimit from 'p-limit'
import { Refusal } from '@core/model'

/** Work that needs much memory, done at once by this process. */
const AT_ONCE = 2
/** What may wait for it. */
const MOST_WAITING = 24

const limit = pLimit(AT_ONCE)

/**
 * Does work that needs much memory, such as reading pictures or drawing a handout, when it is its turn.
 * @throws Refusal `unavailable` when too much is waiting already
 */
export async function inTurn<Result>(work: () => Promise<Result>): Promise<Result> {
  if (limit.pendingCount >= MOST_WAITING) {
    throw new Refusal('unavailable', 'The server is busy with many pictures and handouts. Nothing was changed; try again in a minute.')
  }
  return await limit(work)
}
