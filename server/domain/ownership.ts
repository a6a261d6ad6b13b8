import { Refusal } from '@core/model'
import type { Queries } from '@server/database'

const nothing = (what: string): Refusal => new Refusal('not-found', `There is no such ${what} here.`)

/** What belongs to a talk, and whose that is. */
export interface OwnedByTalk {
  readonly talk: string
  readonly owner: string
}

/**
 * @param persons who asks: one browser may be known as several people, of whom each has talks of their own
 * @returns whose the talk is
 * @throws Refusal `not-found` unless the talk is one of theirs; whether it is another's is not told
 */
export async function ownTalk(q: Queries, persons: readonly string[], talk: string): Promise<string> {
  const found = await q.selectFrom('talk').select('owner').where('id', '=', talk).where('owner', 'in', persons).executeTakeFirst()
  if (found === undefined) throw nothing('talk')
  return found.owner
}

/** @returns the talk that a take of these people belongs to */
export async function ownTake(q: Queries, persons: readonly string[], take: string): Promise<OwnedByTalk> {
  const found = await q
    .selectFrom('take')
    .innerJoin('talk', 'talk.id', 'take.talk')
    .select(['talk.id as talk', 'talk.owner'])
    .where('take.id', '=', take)
    .where('talk.owner', 'in', persons)
    .executeTakeFirst()
  if (found === undefined) throw nothing('take')
  return found
}

/** @returns the take and talk that a stretch of these people belongs to */
export async function ownStretch(
  q: Queries,
  persons: readonly string[],
  stretch: string,
): Promise<{ readonly talk: string; readonly take: string }> {
  const found = await q
    .selectFrom('stretch')
    .innerJoin('take', 'take.id', 'stretch.take')
    .innerJoin('talk', 'talk.id', 'take.talk')
    .select(['talk.id as talk', 'take.id as take'])
    .where('stretch.id', '=', stretch)
    .where('talk.owner', 'in', persons)
    .executeTakeFirst()
  if (found === undefined) throw nothing('recording')
  return found
}

/** Whether all of some recordings are a talk's. */
export async function areStretchesOf(q: Queries, talk: string, stretches: readonly string[]): Promise<boolean> {
  const wanted = [...new Set(stretches)]
  if (wanted.length === 0) return true
  const { count } = await q
    .selectFrom('stretch')
    .innerJoin('take', 'take.id', 'stretch.take')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('stretch.id', 'in', wanted)
    .where('take.talk', '=', talk)
    .executeTakeFirstOrThrow()
  return Number(count) === wanted.length
}

/** @returns the talk that a delivery of these people belongs to */
export async function ownDelivery(q: Queries, persons: readonly string[], delivery: string): Promise<OwnedByTalk> {
  const found = await q
    .selectFrom('delivery')
    .innerJoin('talk', 'talk.id', 'delivery.talk')
    .select(['talk.id as talk', 'talk.owner'])
    .where('delivery.id', '=', delivery)
    .where('talk.owner', 'in', persons)
    .executeTakeFirst()
  if (found === undefined) throw nothing('file')
  return found
}

/** @returns the talk that a sending of this person belongs to */
export async function ownSending(q: Queries, person: string, sending: string): Promise<string> {
  const found = await q
    .selectFrom('sending')
    .innerJoin('talk', 'talk.id', 'sending.talk')
    .select('talk.id')
    .where('sending.id', '=', sending)
    .where('talk.owner', '=', person)
    .executeTakeFirst()
  if (found === undefined) throw nothing('file on its way')
  return found.id
}

/** Whose a talk is; null when there is none. For our own use: nobody is told. */
export const ownerOf = async (q: Queries, talk: string): Promise<string | null> =>
  (await q.selectFrom('talk').select('owner').where('id', '=', talk).executeTakeFirst())?.owner ?? null
