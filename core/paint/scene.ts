import { INK_HEX, strokeOutline } from '@core/ink'
import type { DrawnStroke, Scene } from '@core/scene'
import type { Picture, Size } from '@core/model'
import type { Drawable, PaintContext } from './context'
import { paintInsetGround } from './inset'

/** Colour of a blanked screen. */
const BLANK = '#101C1A'
/** Colour around a page whose shape is not the deck's. */
const PAGE_GROUND = '#FFFFFF'

/** Draws a picture as large as fits, centred on its ground. */
export function paintPicture<Image>(ctx: PaintContext<Image>, drawable: Drawable<Image>, picture: Picture, size: Size): void {
  ctx.fillStyle = picture.kind === 'image' ? picture.ground : PAGE_GROUND
  ctx.fillRect(0, 0, size.width, size.height)
  const scale = Math.min(size.width / picture.size.width, size.height / picture.size.height)
  const width = picture.size.width * scale
  const height = picture.size.height * scale
  ctx.drawImage(
    drawable.image, 0, 0, drawable.width, drawable.height,
    (size.width - width) / 2, (size.height - height) / 2, width, height,
  )
}

/** Draws one stroke, as much of it as is due. */
export function paintStroke<Image>(ctx: PaintContext<Image>, drawn: DrawnStroke, size: Size): void {
  const outline = strokeOutline(drawn.stroke, drawn.elapsed, size)
  const [first] = outline
  if (first === undefined) return
  ctx.fillStyle = INK_HEX[drawn.stroke.colour]
  ctx.beginPath()
  ctx.moveTo(first[0], first[1])
  for (const [index, point] of outline.entries()) {
    const following = outline[(index + 1) % outline.length] ?? first
    ctx.quadraticCurveTo(point[0], point[1], (point[0] + following[0]) / 2, (point[1] + following[1]) / 2)
  }
  ctx.closePath()
  ctx.fill()
}

/**
 * Draws all of a scene but the camera picture: the slide, its ink, and the ground of the inset. Browser and export
 * both draw with this, so that what Review shows is what the file holds.
 * @param pictureOf gives the drawn picture of a step; undefined while it is not loaded, which leaves the ground
 */
export function paintScene<Image>(
  ctx: PaintContext<Image>,
  scene: Scene,
  size: Size,
  pictureOf: (picture: Picture) => Drawable<Image> | undefined,
): void {
  if (scene.shown === null) {
    ctx.fillStyle = BLANK
    ctx.fillRect(0, 0, size.width, size.height)
    return
  }
  const drawable = pictureOf(scene.shown.picture)
  if (drawable === undefined) {
    ctx.fillStyle = PAGE_GROUND
    ctx.fillRect(0, 0, size.width, size.height)
  } else {
    paintPicture(ctx, drawable, scene.shown.picture, size)
  }
  for (const drawn of scene.ink) paintStroke(ctx, drawn, size)
  if (scene.inset !== null) paintInsetGround(ctx, scene.inset.framing, size)
}
