import type { Clip } from './clip'
import type { Composition } from './composition'
import type { Framing } from './framing'
import type { Rect, Size } from './geometry'
import type { AssetId, SlideId } from './id'
import type { Drawing } from './slide-object'
import type { Ms } from './time'

/**
 * What a step shows. `source` is the file it came from; `screen` and `thumb` are pictures of it made at import for
 * the browser. A page of a document is drawn again from its source at the size an export asks for. A composed step is
 * drawn from its composition wherever it is shown.
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
  | {
      readonly kind: 'composed'
      readonly composition: Composition
      /** How many of the parts that come one by one are there. */
      readonly shown: number
      /** Kept free for the face; null where the whole slide can be used. */
      readonly clear: Rect | null
      /** Of the slide it was laid out for. */
      readonly size: Size
    }

/** A place on a picture that leads somewhere. */
export interface PageLink {
  /** In fractions of the picture. */
  readonly box: Rect
  /** With the scheme http or https. */
  readonly address: string
}

/** A way that a part of a slide goes when a step begins. */
export interface Motion {
  /** Where the part stands before it goes, in fractions of the slide. */
  readonly box: Rect
  /** SVG path data in fractions of the slide, from where the part stands. */
  readonly path: string
  readonly duration: Ms
}

/** One state of a slide: what is shown before, between or after its reveals. */
export interface Step {
  readonly picture: Picture
  /** Where there is something to see on the picture: `CONTENT_COLUMNS` x `CONTENT_ROWS` hex digits, row by row; 0 is empty. */
  readonly content: string
  /** The words on it, as far as they can be read from the file. */
  readonly text: string
  /** Places on it that lead somewhere, as its file says; left out: none. */
  readonly links?: readonly PageLink[]
  /** `fade`: what is new on it comes in over a while, where the step before was shown before it. Left out: at once. */
  readonly reveal?: 'fade'
  /** What goes along a path when it begins, as its file says. It is shown where it arrives; left out: nothing. */
  readonly motions?: readonly Motion[]
  /** Shows what the step before it does: it is there for what is drawn on the slide, and begins with that. Left out: it is not. */
  readonly added?: true
}

export const TRANSITIONS = ['cut', 'fade', 'push', 'wipe'] as const
/** How a slide takes the place of the one before. */
export type Transition = (typeof TRANSITIONS)[number]

export interface Slide {
  readonly id: SlideId
  /** Grows each time what viewers see of the slide changes. Recordings name the version they showed. */
  readonly version: number
  readonly title: string
  /** Heading of a part of the talk that begins with it; empty: none does. */
  readonly section: string
  /** Private to the presenter. */
  readonly notes: string
  /** For those who watch; never mixed with the private ones. */
  readonly viewerNotes: string
  /** What it shows, for those who watch without seeing it; empty: what its pictures say of themselves. */
  readonly description: string
  /** At least one. */
  readonly steps: readonly Step[]
  /** What moves or sounds on it, the first below; left out: nothing does. */
  readonly clips?: readonly Clip[]
  /** What was drawn on it here, and how that moves; left out: nothing was. */
  readonly drawing?: Drawing
  /** What a slide that was made here is made of; null for one that came from a file. Its steps follow from it. */
  readonly composition: Composition | null
  /** null: the place is proposed from the slide's empty areas. */
  readonly framing: Framing | null
  /** Where the inset is proposed with the slides around it in mind, on slides of that shape; left out: from this slide alone. */
  readonly proposedInset?: { readonly rect: Rect; readonly shape: Size }
  /** null: proposed from notes and what is on the slide. */
  readonly planned: Ms | null
  readonly skip: boolean
  /** May go when the talk is too long. */
  readonly optional: boolean
  readonly transition: Transition
}

/** The slides of a talk in order, and the shape they are drawn on. */
export interface Deck {
  readonly shape: Size
  readonly slides: readonly Slide[]
}

/** Shapes that decks usually have. */
export const SHAPES: readonly Size[] = [
  { width: 16, height: 9 },
  { width: 4, height: 3 },
  { width: 1, height: 1 },
  { width: 9, height: 16 },
]

/** A slide of which nothing is said but what is given. */
export const newSlide = (id: SlideId, fields: Partial<Omit<Slide, 'id'>>): Slide => ({
  id,
  version: 1,
  title: '',
  section: '',
  notes: '',
  viewerNotes: '',
  description: '',
  steps: [],
  composition: null,
  framing: null,
  planned: null,
  skip: false,
  optional: false,
  transition: 'cut',
  ...fields,
})
