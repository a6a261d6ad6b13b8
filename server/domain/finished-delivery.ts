import { Refusal } from '@core/model'
import type { DeliveryFacts, Recipe } from '@core/model'
import type { Queries } from '@server/database'

export interface FinishedDelivery {
  readonly file: string
  readonly recipe: Recipe
  readonly facts: DeliveryFacts
}

/**
 * A finished file of a talk.
 * @param can what can be done with it then, such as `sent`
 * @throws Refusal `not-found` when it is none of the talk's, `conflict` when it is not finished
 */
export async function finishedDelivery(q: Queries, talk: string, id: string, can: string): Promise<FinishedDelivery> {
  const row = await q
    .selectFrom('delivery')
    .select(['file', 'recipe', 'facts', 'state'])
    .where('id', '=', id)
    .where('talk', '=', talk)
    .executeTakeFirst()
  if (row === undefined) throw new Refusal('not-found', 'This file is not there any more. Make it once more.')
  const { file, recipe, facts, state } = row
  if (state !== 'done' || facts === null) throw new Refusal('conflict', `This file is not finished yet. It can be ${can} once it is.`)
  return { file, recipe, facts }
}
