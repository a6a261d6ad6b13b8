import type { Framing } from './framing'
import type { Size } from './geometry'
import type { AssetId, SlideId } from './id'
import type { Ms } from './time'

/**
 * What a step shows. `source` is the file it came from; `screen` and `thumb` are pictures of it made at import for
 * the browser. A page of a document is drawn again from its source at the size an export asks for.
 */
export type Picture =
  | {
    readonly kind: 'page'
    readonly source: AssetId
    /** Counted from 1, as documents do. */
    readonly page: number
    readonly size: Size
    readonly screen: AssetId
    readonly thumb: AssetId
  }
  | {
    readonly kind: 'image'
    readonly source: AssetId
    readonly size: Size
    /** CSS colour seen around the picture where its shape is not the deck's. */
    readonly ground: string
    readonly screen: AssetId
    readonly thumb: AssetId
  }

/** One state of a slide: what is shown before, between or after its reveals. */
export interface Step {
  readonly picture: Picture
  /** Where there is something to see: `CONTENT_COLUMNS` x `CONTENT_ROWS` hex digits, row by row; 0 is empty. */
  readonly content: string
  /** The words on it, as far as they can be read from the file. */
  readonly text: string
}

export interface Slide {
  readonly id: SlideId
  /** Grows each time what viewers see of the slide changes. Recordings name the version they showed. */
  readonly version: number
  readonly title: string
  /** Private to the presenter. */
  readonly notes: string
  /** At least one. */
  readonly steps: readonly Step[]
  /** null: the place is proposed from the slide's empty areas. */
  readonly framing: Framing | null
  /** null: proposed from notes and what is on the slide. */
  readonly planned: Ms | null
  readonly skip: boolean
}

/** The slides of a talk in order, and the shape they are drawn on. */
export interface Deck {
  readonly shape: Size
  readonly slides: readonly Slide[]
}
