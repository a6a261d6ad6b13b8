import type { Point, Rect } from './geometry'

export const OUTLINES = ['card', 'wide', 'round', 'arch'] as const
/**
 * `card` is an upright rectangle with softened corners and `wide` a lying one; `round` is an ellipse, a circle when its
 * box is square; `arch` is upright with a half-round top.
 */
export type Outline = (typeof OUTLINES)[number]

/** Width to height of each outline's box, in pixels. */
export const OUTLINE_RATIO: Readonly<Record<Outline, number>> = { card: 3 / 4, wide: 16 / 9, round: 1, arch: 3 / 4 }

export const BORDERS = ['none', 'thin', 'broad'] as const
export type Border = (typeof BORDERS)[number]

export const PLACINGS = ['over', 'beside', 'full'] as const
/** `over`: the face lies on the slide. `beside`: slide and face share the frame. `full`: the face fills it. */
export type Placing = (typeof PLACINGS)[number]

/** Most the camera picture can be enlarged within its outline. */
export const MOST_ZOOM = 3

/** Where and how the camera picture lies over a slide. */
export interface Framing {
  readonly placing: Placing
  /** Its box when it lies over the slide; kept while it does not, so that going back finds it. */
  readonly rect: Rect
  readonly outline: Outline
  readonly border: Border
  /** Shown left-right reversed, as in a mirror. */
  readonly mirrored: boolean
  /** How tightly the camera is cropped: 1 shows as much as fits, up to `MOST_ZOOM`. */
  readonly zoom: number
  /** What part of the camera picture is in the middle, in fractions of what can be chosen: 0.5 is its centre. */
  readonly centre: Point
  /** Not shown on this slide at all. */
  readonly off: boolean
}

/** What a framing is unless something else is said. */
export const PLAIN_FRAMING: Omit<Framing, 'rect'> = {
  placing: 'over',
  outline: 'card',
  border: 'thin',
  mirrored: false,
  zoom: 1,
  centre: { x: 0.5, y: 0.5 },
  off: false,
}
