import type { Framing } from './framing'
import type { PieceId, SeamId, SlideId, StretchId, StrokeId, VisitId } from './id'
import type { InkColour, Stroke } from './stroke'
import type { Ms, Ratio, Span } from './time'

/** A part of the programme: what is seen, what is heard, and the face that goes with it. */
export type Piece =
  | {
    readonly kind: 'recorded'
    readonly id: PieceId
    /** Pieces next to each other that belong to one showing of one slide share it. */
    readonly visit: VisitId
    /** The slide that `show` shows from beginning to end. */
    readonly slide: SlideId
    readonly show: Span
    readonly voice: Span | null
    readonly camera: Span | null
    readonly rate: Ratio
  }
  | {
    readonly kind: 'still'
    readonly id: PieceId
    readonly visit: VisitId
    readonly slide: SlideId
    readonly step: number
    readonly length: Ms
    /** The moment of a recording whose ink lies on it; absent: none does. */
    readonly of?: { readonly stretch: StretchId, readonly at: Ms }
  }

/** Where a part was cut: it keeps what went, so that it can be opened again. */
export interface Seam {
  readonly id: SeamId
  /** The piece it stands behind; null: at the talk's beginning. Of several at one place the earlier part comes first. */
  readonly after: PieceId | null
  readonly pieces: readonly Piece[]
  /** Cuts inside what went. */
  readonly seams: readonly Seam[]
}

/** What was done to a stroke after the recording. */
export interface InkEdit {
  readonly stroke: StrokeId
  /** The visit in which it was chosen. */
  readonly visit: VisitId
  readonly hidden: boolean
  /** null: as it was drawn. */
  readonly colour: InkColour | null
  /** How much later it is drawn than it was, in ms; earlier when negative. */
  readonly shift: Ms
}

/** A stroke that was drawn after the recording. */
export interface AddedInk {
  readonly visit: VisitId
  /** The recording that it was drawn over, so that it goes wherever that goes. null: a slide held without one. */
  readonly stretch: StretchId | null
  /** When it begins: in the stretch's time, or counted from the beginning of its visit. */
  readonly at: Ms
  readonly stroke: Stroke
}

/** The finished talk as a list of pieces. Edits make a new one; recordings are never touched. */
export interface Programme {
  readonly pieces: readonly Piece[]
  readonly seams: readonly Seam[]
  /** The version of each slide that this programme shows. */
  readonly slides: Readonly<Record<SlideId, number>>
  /** Where the face is in visits for which that was said; elsewhere as on their slide. */
  readonly framings: Readonly<Record<VisitId, Framing>>
  /** One for each stroke that was changed. */
  readonly inkEdits: readonly InkEdit[]
  readonly inkAdded: readonly AddedInk[]
  readonly revision: number
}

export const EMPTY_PROGRAMME: Programme = { pieces: [], seams: [], slides: {}, framings: {}, inkEdits: [], inkAdded: [], revision: 0 }
