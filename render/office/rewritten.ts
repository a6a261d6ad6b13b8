import type { OfficeDeck } from './office-deck'

/** A deck that was rewritten, a page for each state of each slide. */
export interface Rewritten extends OfficeDeck {
  /** Fonts that are not here. A page for each follows those of the slides and shows what stands in for it. */
  readonly trials: readonly string[]
}
