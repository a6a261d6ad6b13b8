import type { CaptionStyle } from './caption'
import type { Backdrops, Bed, Lights, Overlay, VoiceTreatments } from './dressing'
import type { Framing } from './framing'
import type { CutId, SlideId, StillId, StretchId, StrokeId, VisitId } from './id'
import type { InkColour, Stroke } from './stroke'
import type { Ms, Span } from './time'

/** What both kinds of piece have. Pieces next to each other that belong to one showing of one slide share its visit. */
interface InVisit {
  readonly visit: VisitId
  readonly slide: SlideId
  /** The cut that took it out: it keeps its place in the list and is not played. Absent: it is played. */
  readonly out?: CutId
}

/** A part of a recording. Its slide is the one that `show` shows from beginning to end; `show` also decides how long it is. */
export interface RecordedPiece extends InVisit {
  readonly kind: 'recorded'
  readonly show: Span
  readonly voice: Span | null
  readonly camera: Span | null
}

/** A part of a slide that is held without a recording. */
export interface StillPiece extends InVisit {
  readonly kind: 'still'
  /** Parts of one still share its id and its time, so that ink drawn on it stays where it was drawn. */
  readonly still: StillId
  readonly from: Ms
  readonly to: Ms
  readonly step: number
  /** The moment of a recording whose ink lies on it; absent: none does. */
  readonly of?: { readonly stretch: StretchId; readonly at: Ms }
}

/** A part of the programme: what is seen, what is heard, and the face that goes with it. A piece is found by its place in the list. */
export type Piece = RecordedPiece | StillPiece

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

/** What a stroke was drawn over after the recording: it goes wherever that goes. */
export type InkGround = { readonly kind: 'stretch'; readonly id: StretchId } | { readonly kind: 'still'; readonly id: StillId }

/** A stroke that was drawn after the recording. */
export interface AddedInk {
  /** The visit in which it was drawn. */
  readonly visit: VisitId
  readonly over: InkGround
  /** When it begins, in the time of what it was drawn over. */
  readonly at: Ms
  readonly stroke: Stroke
}

/**
 * The finished talk as a list of pieces. Edits make a new one; recordings are never touched. All pieces of a visit are next to each
 * other.
 */
export interface Programme {
  readonly pieces: readonly Piece[]
  /** The version of each slide that this programme shows. */
  readonly slides: Readonly<Record<SlideId, number>>
  /** Where the face is in visits for which that was said; elsewhere as on their slide. */
  readonly framings: Readonly<Record<VisitId, Framing>>
  /** One for each stroke that was changed. */
  readonly inkEdits: readonly InkEdit[]
  readonly inkAdded: readonly AddedInk[]
  /** Visits whose slide looks otherwise than when they were recorded, until somebody has looked at them; absent: none. */
  readonly changedUnder?: readonly VisitId[]
  /** What captions on the picture look like; absent: as usual. */
  readonly captions?: CaptionStyle
  /** What lies over it; absent: nothing. */
  readonly overlays?: readonly Overlay[]
  /** Music; absent: none. */
  readonly beds?: readonly Bed[]
  /** What is done to voices; absent: nothing. */
  readonly voices?: VoiceTreatments
  /** The light of camera pictures; absent: as filmed. */
  readonly lights?: Lights
  /** What is seen behind the presenter; absent: the room, as filmed. */
  readonly backdrops?: Backdrops
  readonly revision: number
}

export const EMPTY_PROGRAMME: Programme = { pieces: [], slides: {}, framings: {}, inkEdits: [], inkAdded: [], revision: 0 }
