import { faceRect } from '@core/layout'
import type { Border, Framing, PixelBox, Size } from '@core/model'
import type { Drawable, PaintContext } from './context'

/** Width of the line around the inset, and radius of a card's corners, as fractions of the frame's shorter side. */
const BORDER: Readonly<Record<Border, number>> = { none: 0, thin: 0.0045, broad: 0.012 }
const CORNER = 0.022
const BORDER_COLOUR = '#FFFDF8'

const even = (value: number): number => Math.round(value / 2) * 2

/**
 * Pixels that the face covers. Even numbers throughout, since video stores colour for pairs of pixels.
 * @param size the frame in pixels
 */
export function insetBox(framing: Framing, size: Size): PixelBox {
  const rect = faceRect(framing)
  const width = Math.max(2, Math.min(even(rect.w * size.width), size.width))
  const height = Math.max(2, Math.min(even(rect.h * size.height), size.height))
  const within = (value: number, most: number): number => Math.max(0, Math.min(even(value), most - (most % 2)))
  return {
    x: within(rect.x * size.width, size.width - width),
    y: within(rect.y * size.height, size.height - height),
    width,
    height,
  }
}

/**
 * The part of a camera picture that fills a box: as much as its shape allows, less when it is enlarged, about the
 * chosen middle. Even numbers.
 */
export function coverCrop(source: Size, box: Size, framing: Pick<Framing, 'zoom' | 'centre'>): PixelBox {
  const scale = Math.min(source.width / box.width, source.height / box.height) / framing.zoom
  const width = Math.min(source.width, Math.max(2, even(box.width * scale)))
  const height = Math.min(source.height, Math.max(2, even(box.height * scale)))
  return { x: even((source.width - width) * framing.centre.x), y: even((source.height - height) * framing.centre.y), width, height }
}

/** Lays the inset's outline, grown by `by` pixels, as the current path. */
export function insetPath<Image>(ctx: PaintContext<Image>, framing: Framing, box: PixelBox, size: Size, by = 0): void {
  const x = box.x - by
  const y = box.y - by
  const width = box.width + 2 * by
  const height = box.height + 2 * by
  ctx.beginPath()
  if (framing.placing === 'full') {
    ctx.rect(x, y, width, height)
    return
  }
  if (framing.outline === 'round' && framing.placing === 'over') {
    ctx.ellipse(x + width / 2, y + height / 2, width / 2, height / 2, 0, 0, Math.PI * 2)
    return
  }
  const r = Math.min(CORNER * Math.min(size.width, size.height) + by, width / 2, height / 2)
  const arch = framing.outline === 'arch' && framing.placing === 'over'
  if (arch) {
    // A half-round top, as wide as the card.
    ctx.ellipse(x + width / 2, y + width / 2, width / 2, width / 2, 0, Math.PI, Math.PI * 2)
  } else {
    ctx.moveTo(x + r, y)
    ctx.lineTo(x + width - r, y)
    ctx.quadraticCurveTo(x + width, y, x + width, y + r)
  }
  ctx.lineTo(x + width, y + height - r)
  ctx.quadraticCurveTo(x + width, y + height, x + width - r, y + height)
  ctx.lineTo(x + r, y + height)
  ctx.quadraticCurveTo(x, y + height, x, y + height - r)
  if (!arch) {
    ctx.lineTo(x, y + r)
    ctx.quadraticCurveTo(x, y, x + r, y)
  }
  ctx.closePath()
}

/** Draws the ground on which the camera picture will lie: its border, filled. */
export function paintInsetGround<Image>(ctx: PaintContext<Image>, framing: Framing, size: Size): void {
  const border = framing.placing === 'full' ? 0 : BORDER[framing.border] * Math.min(size.width, size.height)
  if (border === 0) return
  ctx.fillStyle = BORDER_COLOUR
  insetPath(ctx, framing, insetBox(framing, size), size, Math.max(1, border))
  ctx.fill()
}

/** Draws the camera picture into its place. */
export function paintInset<Image>(ctx: PaintContext<Image>, camera: Drawable<Image>, framing: Framing, size: Size): void {
  const box = insetBox(framing, size)
  const crop = coverCrop(camera, box, framing)
  ctx.save()
  insetPath(ctx, framing, box, size)
  ctx.clip()
  if (framing.mirrored) {
    ctx.translate(2 * box.x + box.width, 0)
    ctx.scale(-1, 1)
  }
  ctx.drawImage(camera.image, crop.x, crop.y, crop.width, crop.height, box.x, box.y, box.width, box.height)
  ctx.restore()
}
