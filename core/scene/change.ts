import { dequal } from 'dequal'
import { faceRect } from '@core/layout'
import { easedBy } from '@core/objects'
import type { Framing, Ms, Rect } from '@core/model'

/** How long one slide takes to take the place of another, unless it cuts. */
export const TRANSITION: Ms = 500
/** How long the face takes to move from one slide's framing to the next one's. */
export const EASE: Ms = 400
/** How long a part of a slide takes to come in. */
export const REVEAL: Ms = 350

/** Starts and ends slowly. @param share 0 to 1 */
export const eased = (share: number): number => easedBy('calm', share)

const between = (a: number, b: number, share: number): number => a + (b - a) * share

export const rectBetween = (a: Rect, b: Rect, share: number): Rect => ({
  x: between(a.x, b.x, share),
  y: between(a.y, b.y, share),
  w: between(a.w, b.w, share),
  h: between(a.h, b.h, share),
})

/** A framing on its way from one to another: it lies over the slide while it moves. */
export const framingBetween = (from: Framing, to: Framing, share: number): Framing => ({
  ...to,
  placing: 'over',
  rect: rectBetween(faceRect(from), faceRect(to), share),
  zoom: between(from.zoom, to.zoom, share),
  centre: { x: between(from.centre.x, to.centre.x, share), y: between(from.centre.y, to.centre.y, share) },
})

/** Whether the face is in the same place and looks the same in both. */
export const sameFraming = (a: Framing, b: Framing): boolean => dequal(a, b)
