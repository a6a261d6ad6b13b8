import type { AssetId, Picture } from '@core/model'
import type { ClipScene } from '@core/scene'

/** A step's picture that came from a file. */
export type FiledPicture = Exclude<Picture, { kind: 'composed' }>

/** The part of CanvasRenderingContext2D that browser and server both have and that we draw with. */
export interface PaintContext<Image> {
  fillStyle: unknown
  strokeStyle: unknown
  lineWidth: number
  lineCap: 'butt' | 'round' | 'square'
  lineJoin: 'bevel' | 'miter' | 'round'
  globalAlpha: number
  font: string
  direction: 'ltr' | 'rtl' | 'inherit'
  textAlign: 'left' | 'right' | 'center' | 'start' | 'end'
  textBaseline: 'alphabetic' | 'top' | 'middle' | 'bottom' | 'hanging' | 'ideographic'
  save: () => void
  restore: () => void
  translate: (x: number, y: number) => void
  scale: (x: number, y: number) => void
  /** Clockwise, in radians. */
  rotate: (angle: number) => void
  beginPath: () => void
  closePath: () => void
  moveTo: (x: number, y: number) => void
  lineTo: (x: number, y: number) => void
  quadraticCurveTo: (cx: number, cy: number, x: number, y: number) => void
  ellipse: (x: number, y: number, rx: number, ry: number, rotation: number, start: number, end: number) => void
  rect: (x: number, y: number, width: number, height: number) => void
  fill: () => void
  stroke: () => void
  clip: () => void
  fillRect: (x: number, y: number, width: number, height: number) => void
  fillText: (text: string, x: number, y: number) => void
  drawImage: (image: Image, ...numbers: [number, number, number, number, number, number, number, number]) => void
}

/** A picture that can be drawn, with its size in its own pixels. */
export interface Drawable<Image> {
  readonly image: Image
  readonly width: number
  readonly height: number
  /** Nothing is seen of it beyond what is wanted of it. */
  readonly cropped?: true
}

/** What pictures a painter can draw: steps that came from files, and files placed on slides made here. */
export interface PictureShelf<Image> {
  /** The drawn picture of a page or image; undefined while it is not loaded, which leaves its ground. */
  readonly ofStep: (picture: FiledPicture) => Drawable<Image> | undefined
  /** A picture on a slide made here, by its file. */
  readonly ofAsset: (asset: AssetId) => Drawable<Image> | undefined
  /** What is seen of a clip at its moment; left out, or undefined: as it begins, which is a picture of its own. */
  readonly ofClip?: (clip: ClipScene) => Drawable<Image> | undefined
}
