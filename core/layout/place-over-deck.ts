import type { InsetPlace } from './free-places'

/** What it costs that the face moves from one slide to the next: more than any place costs more than another, less than half its size. */
const MOVE = 6

/** What the best way to each place costs, and the place on the slide before from which it comes. */
interface Ways {
  readonly costs: Float64Array
  readonly from: Int32Array
}

const cheapestOf = (costs: Float64Array): number => costs.reduce((best, cost, n) => (cost < (costs[best] ?? Infinity) ? n : best), 0)

/** The best ways to the places of one more slide. @param free which of them are free */
function waysTo(free: string, places: readonly InsetPlace[], before: Float64Array): Ways {
  const cheapest = cheapestOf(before)
  const moved = (before[cheapest] ?? 0) + MOVE
  const costs = new Float64Array(places.length).fill(Infinity)
  const from = new Int32Array(places.length)
  for (const [n, place] of places.entries()) {
    if (free[n] !== '1') continue
    const stays = before[n] ?? Infinity
    from[n] = stays <= moved ? n : cheapest
    costs[n] = Math.min(stays, moved) + place.cost
  }
  return { costs, from }
}

/**
 * Finds where the face stands on the slides of a deck so that it touches nothing and moves as seldom as it can, by dynamic programming over
 * the slides (Bellman, 1957): of all ways of placing it, the one whose places and moves cost least together.
 * @param free for each slide which of the places are free, as `freePlaces` says; null where nothing is known of it
 * @returns for each slide a place by its number; null where none is free
 */
export function placeOverDeck(free: readonly (string | null)[], places: readonly InsetPlace[]): readonly (number | null)[] {
  let costs: Float64Array = new Float64Array(places.length)
  const came: (Int32Array | null)[] = []
  for (const slide of free) {
    const ways = slide?.includes('1') === true ? waysTo(slide, places, costs) : null
    costs = ways?.costs ?? costs
    came.push(ways?.from ?? null)
  }
  const chosen: (number | null)[] = []
  let at = cheapestOf(costs)
  for (const from of came.toReversed()) {
    chosen.unshift(from === null ? null : at)
    at = from?.[at] ?? at
  }
  return chosen
}
