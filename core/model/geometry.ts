/** A place on a slide: x and y are fractions (0 to 1) of the slide's width and height. */
export interface Point {
  readonly x: number
  readonly y: number
}

/** A rectangle in fractions of the slide's width (x, w) and height (y, h). */
export interface Rect {
  readonly x: number
  readonly y: number
  readonly w: number
  readonly h: number
}

/** Whole pixels, or the two terms of an aspect ratio. */
export interface Size {
  readonly width: number
  readonly height: number
}
