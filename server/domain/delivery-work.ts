import type { Selectable, Updateable } from 'kysely'
import { UNDER_WAY, isUnderWay } from '@core/model'
import type { DeliveryTable, Queries } from '@server/database'
import { lookAtEntriesOf } from './entries-waiting'
import { tell } from './events'
import { shareTurns } from './film-turns'

/** A delivery that is to be made, with its talk's name. */
export type DeliveryToMake = Selectable<DeliveryTable> & { readonly name: string }

/** A delivery that somebody waits for; null when nobody does any more. */
export async function deliveryToMake(q: Queries, id: string): Promise<DeliveryToMake | null> {
  const row = await q
    .selectFrom('delivery')
    .innerJoin('talk', 'talk.id', 'delivery.talk')
    .selectAll('delivery')
    .select('talk.name')
    .where('delivery.id', '=', id)
    .executeTakeFirst()
  return row === undefined || !isUnderWay(row.state) ? null : row
}

/** A delivery as somebody makes it: once it was told to stop, it is another turn. */
export interface DeliveryTurn {
  readonly id: string
  readonly talk: string
  readonly turn: number
}

/** The turn that a delivery is in; null when it was deleted. */
export async function turnOf(q: Queries, id: string): Promise<DeliveryTurn | null> {
  const row = await q.selectFrom('delivery').select(['talk', 'turn']).where('id', '=', id).executeTakeFirst()
  return row === undefined ? null : { id, ...row }
}

/** Whether a delivery is being made at the moment. */
export const isMaking = async (q: Queries, id: string): Promise<boolean> =>
  (await q.selectFrom('delivery').select('state').where('id', '=', id).executeTakeFirst())?.state === 'making'

/** Who makes a delivery: the worker that was given it, and those that help. */
export async function setMakers(q: Queries, id: string, workers: readonly string[]): Promise<void> {
  await q
    .updateTable('delivery')
    .set({ helpers: JSON.stringify(workers) })
    .where('id', '=', id)
    .execute()
}

/**
 * Writes what is new of a delivery, and tells it, as long as it is the same turn and under way. In one transaction.
 * @param first is done before it is written
 * @returns whether it was written
 */
export async function writeDelivery(
  q: Queries,
  { id, turn }: DeliveryTurn,
  columns: Updateable<DeliveryTable>,
  first: () => Promise<void>,
): Promise<boolean> {
  const current = await q
    .selectFrom('delivery')
    .select('talk')
    .where('id', '=', id)
    .where('turn', '=', turn)
    .where('state', 'in', UNDER_WAY)
    .forUpdate()
    .executeTakeFirst()
  if (current === undefined) return false
  await first()
  await q.updateTable('delivery').set(columns).where('id', '=', id).execute()
  if (columns.state === 'done' || columns.state === 'failed') {
    await lookAtEntriesOf(q, id)
    await shareTurns(q, current.talk)
  }
  await tell(q, { talk: current.talk, kind: 'delivery', id })
  return true
}
