import { sum } from 'd3'
import { stepNeeded } from '@core/programme'
import type { TalkCard } from '@contracts'
import { duration } from '~/words'

/** What a talk waits for: where it is done, and what it is called. */
export interface NextStep {
  readonly to: 'prepare' | 'lectern' | 'review' | 'hand-over'
  readonly say: string
}

/** How long a slide takes as the talk stands: what was recorded where something was, else what is planned. */
export const lengthOfSlab = ({ recorded, planned }: TalkCard['timelineBlocks'][number]): number => (recorded > 0 ? recorded : planned)
/** How long a talk is as it stands. */
export const lengthOf = (talk: TalkCard): number => sum(talk.timelineBlocks, lengthOfSlab)
export const recordedOf = (talk: TalkCard): number => sum(talk.timelineBlocks, (slab) => slab.recorded)

/** What is to be done next for a talk. */
export function nextStep(talk: TalkCard): NextStep {
  switch (stepNeeded(talk)) {
    case 'look-at-take':
      return { to: 'lectern', say: 'A take was broken off: look at it' }
    case 'deck-comes':
      return { to: 'prepare', say: 'Deck is being read' }
    case 'bring-deck':
      return { to: 'prepare', say: 'Bring in a deck' }
    case 'record':
      return { to: 'lectern', say: 'Record it' }
    case 'shorten':
      return { to: 'review', say: `${duration(recordedOf(talk) - (talk.limit ?? 0))} over: listen and shorten` }
    case 'make-file':
      return { to: 'hand-over', say: 'Make the file' }
    case 'hand-over':
      return { to: 'hand-over', say: 'Hand it over' }
  }
}
