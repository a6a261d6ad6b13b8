import type { Ms, Theme } from '@core/model'

export const SECOND: Ms = 1000
export const MINUTE: Ms = 60 * SECOND

/** How the face stands on a slide of a starter: where the layout has it, beside the slide, all of the frame, or not at all. */
export type StarterFace = 'usual' | 'beside' | 'full' | 'off'

export interface StarterSlide {
  readonly heading: string
  /** What stands under it, in CommonMark as a deck in text has it: layout and reveals are marked there. */
  readonly body: readonly string[]
  /** What goes there, and how long it may take; paragraphs. */
  readonly notes: readonly string[]
  readonly planned: Ms
  readonly face: StarterFace
  /** Heading of a part that begins with it. */
  readonly section?: string
}

/** A deck to begin a talk from. */
export interface StarterDeck {
  readonly theme: Theme
  readonly slides: readonly StarterSlide[]
}
