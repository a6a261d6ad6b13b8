import type { ClipId, SlideId, StrokeId } from './id'
import type { Stroke } from './stroke'
import type { Ms } from './time'

/** Where a pointer was: `dt` ms after the cue, `x` and `y` in fractions of the slide. */
export interface PathPoint {
  readonly dt: Ms
  readonly x: number
  readonly y: number
}

/**
 * A timed event inside a stretch. `at` counts from the stretch's beginning; an ink cue's `at` is when the pen came down.
 * `point` is a spot that follows the hand along its path and leaves nothing. `mute` says that the voice was not stored.
 * `clip` starts a clip where `place` ms of it were played, or halts it there.
 * `stumble` marks a place that the presenter wants to mend.
 */
export type Cue =
  | { readonly kind: 'show'; readonly at: Ms; readonly slide: SlideId; readonly step: number }
  | { readonly kind: 'ink'; readonly at: Ms; readonly stroke: Stroke }
  | { readonly kind: 'erase'; readonly at: Ms; readonly stroke: StrokeId }
  | { readonly kind: 'wipe'; readonly at: Ms; readonly slide: SlideId }
  | { readonly kind: 'point'; readonly at: Ms; readonly path: readonly PathPoint[] }
  | { readonly kind: 'blank'; readonly at: Ms; readonly on: boolean }
  | { readonly kind: 'inset'; readonly at: Ms; readonly on: boolean }
  | { readonly kind: 'mute'; readonly at: Ms; readonly on: boolean }
  | { readonly kind: 'clip'; readonly at: Ms; readonly clip: ClipId; readonly place: Ms; readonly playing: boolean }
  | { readonly kind: 'stumble'; readonly at: Ms }
