import type { SlideId, StrokeId } from './id'
import type { Stroke } from './stroke'
import type { Ms } from './time'

/** A timed event inside a stretch. `at` counts from the stretch's beginning; an ink cue's `at` is when the pen came down. */
export type Cue =
  | { readonly kind: 'show', readonly at: Ms, readonly slide: SlideId, readonly step: number }
  | { readonly kind: 'ink', readonly at: Ms, readonly stroke: Stroke }
  | { readonly kind: 'erase', readonly at: Ms, readonly stroke: StrokeId }
  | { readonly kind: 'wipe', readonly at: Ms, readonly slide: SlideId }
  | { readonly kind: 'blank', readonly at: Ms, readonly on: boolean }
  | { readonly kind: 'inset', readonly at: Ms, readonly on: boolean }
