import { Refusal } from '@core/model'
import type { Queries } from '@server/database'

const nothing = (what: string): Refusal => new Refusal('not-found', `There is no such ${what} here.`)

/** @throws Refusal `not-found` unless the talk is this person's; whether it is another's is not told */
export async function ownTalk(q: Queries, person: string, talk: string): Promise<void> {
  const found = await q.selectFrom('talk').select('id').where('id', '=', talk).where('owner', '=', person).executeTakeFirst()
  if (found === undefined) throw nothing('talk')
}

/** @returns the talk that a take of this person belongs to */
export async function ownTake(q: Queries, person: string, take: string): Promise<string> {
  const found = await q
    .selectFrom('take')
    .innerJoin('talk', 'talk.id', 'take.talk')
    .select('talk.id')
    .where('take.id', '=', take)
    .where('talk.owner', '=', person)
    .executeTakeFirst()
  if (found === undefined) throw nothing('take')
  return found.id
}

/** @returns the take and talk that a stretch of this person belongs to */
export async function ownStretch(q: Queries, person: string, stretch: string): Promise<{ readonly talk: string; readonly take: string }> {
  const found = await q
    .selectFrom('stretch')
    .innerJoin('take', 'take.id', 'stretch.take')
    .innerJoin('talk', 'talk.id', 'take.talk')
    .select(['talk.id as talk', 'take.id as take'])
    .where('stretch.id', '=', stretch)
    .where('talk.owner', '=', person)
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

/** @returns the talk that a delivery of this person belongs to */
export async function ownDelivery(q: Queries, person: string, delivery: string): Promise<string> {
  const found = await q
    .selectFrom('delivery')
    .innerJoin('talk', 'talk.id', 'delivery.talk')
    .select('talk.id')
    .where('delivery.id', '=', delivery)
    .where('talk.owner', '=', person)
    .executeTakeFirst()
  if (found === undefined) throw nothing('file')
  return found.id
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
