import type { PieceId, SlideId, VisitId } from './id'
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

/** The finished talk as a list of pieces. Edits make a new one; recordings are never touched. */
export interface Programme {
  readonly pieces: readonly Piece[]
  /** The version of each slide that this programme shows. */
  readonly slides: Readonly<Record<SlideId, number>>
  readonly revision: number
}

export const EMPTY_PROGRAMME: Programme = { pieces: [], slides: {}, revision: 0 }
