import type { Rect } from './geometry'

export const OUTLINES = ['card', 'round'] as const
/** `card` is an upright rectangle with softened corners; `round` is an ellipse, a circle when its box is square. */
export type Outline = (typeof OUTLINES)[number]

/** Where and how the camera picture lies over a slide. */
export interface Framing {
  readonly rect: Rect
  readonly outline: Outline
  /** Shown left-right reversed, as in a mirror. */
  readonly mirrored: boolean
  /** Not shown on this slide at all. */
  readonly off: boolean
}
