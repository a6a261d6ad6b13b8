import type { PieceId, SeamId, SlideId, VisitId } from './id'
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

/** The finished talk as a list of pieces. Edits make a new one; recordings are never touched. */
export interface Programme {
  readonly pieces: readonly Piece[]
  readonly seams: readonly Seam[]
  /** The version of each slide that this programme shows. */
  readonly slides: Readonly<Record<SlideId, number>>
  readonly revision: number
}

export const EMPTY_PROGRAMME: Programme = { pieces: [], seams: [], slides: {}, revision: 0 }
