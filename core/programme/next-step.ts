import type { Ms } from '../model'

/** What a talk may wait for, the least patient first: what could be lost comes first, what is finished last. */
export const STEPS = ['look-at-take', 'shorten', 'make-file', 'record', 'bring-deck', 'deck-comes', 'hand-over'] as const
export type StepNeeded = (typeof STEPS)[number]

/** What is looked at to say what a talk waits for. */
export interface TalkSoFar {
  readonly limit: Ms | null
  /** Its slides that are not skipped. */
  readonly timelineBlocks: readonly { readonly recorded: Ms }[]
  /** Finished files. */
  readonly deliveries: number
  /** Whether a deck is being read. */
  readonly importing: boolean
  /** Whether a take was begun and not finished. */
  readonly unfinished: boolean
}

/** What is to be done next for a talk. */
export function stepNeeded({ limit, timelineBlocks, deliveries, importing, unfinished }: TalkSoFar): StepNeeded {
  const recorded = timelineBlocks.reduce((sum, block) => sum + block.recorded, 0)
  if (unfinished) return 'look-at-take'
  if (importing) return 'deck-comes'
  if (timelineBlocks.length === 0) return 'bring-deck'
  if (recorded === 0) return 'record'
  if (limit !== null && recorded > limit) return 'shorten'
  return deliveries === 0 ? 'make-file' : 'hand-over'
}
