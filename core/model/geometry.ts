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

/** A rectangle of whole pixels. */
export interface PixelBox extends Size {
  readonly x: number
  readonly y: number
}

/** The nearest even number of pixels, two at least: video stores colour for pairs of them. */
export const evenPixels = (pixels: number): number => Math.max(2, Math.round(pixels / 2) * 2)

/** Whether two rectangles have something in common. */
export const rectsOverlap = (a: Rect, b: Rect): boolean => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h

/** Where a picture stands that is as large as fits into a frame, in its middle; in fractions of the frame. */
export function fittedInto(picture: Size, frame: Size): Rect {
  const scale = Math.min(frame.width / picture.width, frame.height / picture.height)
  const [w, h] = [(picture.width * scale) / frame.width, (picture.height * scale) / frame.height]
  return { x: (1 - w) / 2, y: (1 - h) / 2, w, h }
}
