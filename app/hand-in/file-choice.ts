import { videoSize } from '@core/plan'
import { factsOfDelivery, plannedFacts } from '@core/rules'
import type { FileFacts } from '@core/rules'
import type { Recipe, Size } from '@core/model'
import type { DeliveryView, EstimateView } from '@contracts'

/** What is known of a finished file; null: it is not finished. */
export const factsOf = ({ state, file, recipe, facts }: DeliveryView): FileFacts | null =>
  state === 'done' && facts !== null ? factsOfDelivery(file, recipe.format, facts) : null

/** Of the finished files the one that would be handed in: the newest that shows the talk as it is now, else the newest. */
export function fileToHandIn(ledger: readonly DeliveryView[], revision: number): DeliveryView | null {
  const finished = ledger.filter((one) => factsOf(one) !== null)
  return finished.find((one) => one.revision === revision) ?? finished[0] ?? null
}

/** What is reckoned of the file that the recipe makes. @param estimate null: nothing is recorded yet */
export function reckonedFacts(recipe: Recipe, name: string, shape: Size, words: string | null, estimate: EstimateView | null): FileFacts {
  const { length = 0, bytes = 0, within = { size: 0 } } = estimate ?? {}
  const size = recipe.size ?? videoSize(shape, recipe.lines)
  return plannedFacts(recipe, { name, length, bytes, bytesOff: within.size, size, words: words !== null })
}
