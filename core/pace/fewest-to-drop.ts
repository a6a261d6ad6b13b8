import type { Ms } from '@core/model'

/** Something that can go. */
export interface Droppable<Id> {
  readonly id: Id
  /** What it wins, in ms. */
  readonly wins: Ms
  /** What is lost by it, in ms. */
  readonly costs: Ms
}

/** Wins are told apart by so much, in ms; a finer grain costs time and wins nothing that is noticed. */
const GRAIN: Ms = 100

/**
 * Those that together win enough and cost the least. A knapsack by dynamic programming over wins (Bellman 1957): exact to a tenth of a
 * second.
 * @param wanted ms that are to be won
 * @returns their ids in the order given; null when all of them do not win it
 */
export function fewestToDrop<Id>(choices: readonly Droppable<Id>[], wanted: Ms): readonly Id[] | null {
  const units = Math.ceil(Math.max(0, wanted) / GRAIN)
  // Never more than it wins, so that what is chosen is enough; whatever wins all that is left is enough.
  const winsOf = ({ wins }: Droppable<Id>): number => Math.floor(wins / GRAIN)
  interface Best {
    readonly cost: Ms
    readonly chosen: Link | null
  }
  interface Link {
    readonly choice: number
    readonly before: Link | null
  }
  let best: (Best | undefined)[] = [{ cost: 0, chosen: null }]
  for (const [n, choice] of choices.entries()) {
    const next = [...best]
    for (const [won, at] of best.entries()) {
      if (at === undefined) continue
      const to = Math.min(units, won + winsOf(choice))
      const cost = at.cost + choice.costs
      if (cost < (next[to]?.cost ?? Infinity)) next[to] = { cost, chosen: { choice: n, before: at.chosen } }
    }
    best = next
  }
  const found = best[units]
  if (found === undefined) return null
  const chosen = new Set<number>()
  for (let link = found.chosen; link !== null; link = link.before) chosen.add(link.choice)
  return choices.filter((_, n) => chosen.has(n)).map(({ id }) => id)
}
