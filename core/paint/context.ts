/** The part of CanvasRenderingContext2D that browser and server both have and that we draw with. */
export interface PaintContext<Image> {
  fillStyle: unknown
  globalAlpha: number
  save: () => void
  restore: () => void
  beginPath: () => void
  closePath: () => void
  moveTo: (x: number, y: number) => void
  lineTo: (x: number, y: number) => void
  quadraticCurveTo: (cx: number, cy: number, x: number, y: number) => void
  ellipse: (x: number, y: number, rx: number, ry: number, rotation: number, start: number, end: number) => void
  rect: (x: number, y: number, width: number, height: number) => void
  fill: () => void
  clip: () => void
  fillRect: (x: number, y: number, width: number, height: number) => void
  drawImage: (image: Image, ...numbers: [number, number, number, number, number, number, number, number]) => void
}

/** A picture that can be drawn, with its size in its own pixels. */
export interface Drawable<Image> {
  readonly image: Image
  readonly width: number
  readonly height: number
}

/** Whole pixels. */
export interface PixelBox {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}
