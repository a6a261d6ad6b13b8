import { sum } from 'd3'
import type { TalkCard } from '@contracts'
import { duration } from '~/words'

/** What a talk waits for: where it is done, what it is called, and how soon it should be, the least first. */
export interface NextStep {
  readonly to: 'prepare' | 'lectern' | 'review' | 'hand-over'
  readonly say: string
  readonly rank: number
}

/** How long a slide takes as the talk stands: what was recorded where something was, else what is planned. */
export const lengthOfSlab = ({ recorded, planned }: TalkCard['timelineBlocks'][number]): number => (recorded > 0 ? recorded : planned)
/** How long a talk is as it stands. */
export const lengthOf = (talk: TalkCard): number => sum(talk.timelineBlocks, lengthOfSlab)
export const recordedOf = (talk: TalkCard): number => sum(talk.timelineBlocks, (slab) => slab.recorded)

/** What is to be done next for a talk. What could be lost comes first, what is finished last. */
export function nextStep(talk: TalkCard): NextStep {
  const recorded = recordedOf(talk)
  if (talk.unfinished) return { to: 'lectern', say: 'A take was broken off: look at it', rank: 0 }
  if (talk.importing) return { to: 'prepare', say: 'Deck is being read', rank: 5 }
  if (talk.timelineBlocks.length === 0) return { to: 'prepare', say: 'Bring in a deck', rank: 4 }
  if (recorded === 0) return { to: 'lectern', say: 'Record it', rank: 3 }
  if (talk.limit !== null && recorded > talk.limit)
    return { to: 'review', say: `${duration(recorded - talk.limit)} over: listen and shorten`, rank: 1 }
  return talk.deliveries === 0 ? { to: 'hand-over', say: 'Make the file', rank: 2 } : { to: 'hand-over', say: 'Hand it over', rank: 6 }
}

export const ORDERS = ['waiting', 'changed', 'name'] as const
export type TalkOrder = (typeof ORDERS)[number]

/**
 * The talks that are looked for, in an order.
 * @param wanted words that the name must hold, in any order and case; none: all talks
 */
export function talksShown(talks: readonly TalkCard[], wanted: string, order: TalkOrder): readonly TalkCard[] {
  const words = wanted
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word !== '')
  const found = talks.filter((talk) => words.every((word) => talk.name.toLowerCase().includes(word)))
  switch (order) {
    case 'changed':
      return [...found].sort((a, b) => b.changed.localeCompare(a.changed))
    case 'name':
      return [...found].sort((a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }))
    case 'waiting':
      return [...found].sort((a, b) => nextStep(a).rank - nextStep(b).rank || b.changed.localeCompare(a.changed))
  }
}
