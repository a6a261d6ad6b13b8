import type { Framing, Size } from '@core/model'
import type { Drawable, PaintContext, PixelBox } from './context'

/** Width of the line around the inset, and radius of a card's corners, as fractions of the slide's height. */
const BORDER = 0.0045
const CORNER = 0.022
const BORDER_COLOUR = '#FFFDF8'

const even = (value: number): number => Math.round(value / 2) * 2

/**
 * Pixels that the inset covers. Even numbers throughout, since video stores colour for pairs of pixels.
 * @param size the slide in pixels
 */
export function insetBox(framing: Framing, size: Size): PixelBox {
  const width = Math.max(2, Math.min(even(framing.rect.w * size.width), size.width))
  const height = Math.max(2, Math.min(even(framing.rect.h * size.height), size.height))
  const within = (value: number, most: number): number => Math.max(0, Math.min(even(value), most - (most % 2)))
  return {
    x: within(framing.rect.x * size.width, size.width - width),
    y: within(framing.rect.y * size.height, size.height - height),
    width,
    height,
  }
}

/** The largest part of a camera picture, about its centre, that has the shape of a box. Even numbers. */
export function coverCrop(source: Size, box: Size): PixelBox {
  const scale = Math.min(source.width / box.width, source.height / box.height)
  const width = Math.min(source.width, Math.max(2, even(box.width * scale)))
  const height = Math.min(source.height, Math.max(2, even(box.height * scale)))
  return { x: even((source.width - width) / 2), y: even((source.height - height) / 2), width, height }
}

/** Lays the inset's outline, grown by `by` pixels, as the current path. */
export function insetPath<Image>(ctx: PaintContext<Image>, framing: Framing, box: PixelBox, size: Size, by = 0): void {
  const x = box.x - by
  const y = box.y - by
  const width = box.width + 2 * by
  const height = box.height + 2 * by
  ctx.beginPath()
  if (framing.outline === 'round') {
    ctx.ellipse(x + width / 2, y + height / 2, width / 2, height / 2, 0, 0, Math.PI * 2)
    return
  }
  const r = Math.min(CORNER * size.height + by, width / 2, height / 2)
  ctx.moveTo(x + r, y)
  ctx.lineTo(x + width - r, y)
  ctx.quadraticCurveTo(x + width, y, x + width, y + r)
  ctx.lineTo(x + width, y + height - r)
  ctx.quadraticCurveTo(x + width, y + height, x + width - r, y + height)
  ctx.lineTo(x + r, y + height)
  ctx.quadraticCurveTo(x, y + height, x, y + height - r)
  ctx.lineTo(x, y + r)
  ctx.quadraticCurveTo(x, y, x + r, y)
  ctx.closePath()
}

/** Draws the ground on which the camera picture will lie: its border, filled. */
export function paintInsetGround<Image>(ctx: PaintContext<Image>, framing: Framing, size: Size): void {
  ctx.fillStyle = BORDER_COLOUR
  insetPath(ctx, framing, insetBox(framing, size), size, Math.max(1, BORDER * size.height))
  ctx.fill()
}

/** Draws the camera picture into its place. */
export function paintInset<Image>(ctx: PaintContext<Image>, camera: Drawable<Image>, framing: Framing, size: Size): void {
  const box = insetBox(framing, size)
  const crop = coverCrop(camera, box)
  ctx.save()
  insetPath(ctx, framing, box, size)
  ctx.clip()
  ctx.drawImage(camera.image, crop.x, crop.y, crop.width, crop.height, box.x, box.y, box.width, box.height)
  ctx.restore()
}
