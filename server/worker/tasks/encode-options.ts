import type { Segment } from '@core/plan'

/** Who hears of pictures as they are made, and may have that stop. */
export interface PictureWatch {
  readonly signal: AbortSignal
  /** So many frames of a segment that is being made are done. */
  readonly within: (segment: Segment, frames: number) => void
  /** A segment is there, made now or found made. @throws Error when the making is to stop */
  readonly finished: (segment: Segment) => Promise<void>
  readonly throwIfCancelled: () => void
  /** Has all that is under way end at its next step. */
  readonly halt: () => void
}

/** How pictures are made. */
export interface EncodeOptions {
  /** Tells apart what several make at a time. */
  readonly label: string
  /** File for the picture that is being made, to be looked at; null: none. */
  readonly preview: string | null
  /** Segments made at the same time. */
  readonly lanes: number
  /**
   * Long parts first, so that no lane is left alone with one at the end. Whoever helps begins with the short ones: two meet in the
   * middle.
   */
  readonly first: 'long' | 'short'
}
