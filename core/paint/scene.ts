import { INK_HEX, SPOT, labelBox, labelFont, labelPlate, strokeOutline } from '@core/ink'
import { asSeen } from '@core/scene'
import type { DrawnStroke, Scene, SlideView } from '@core/scene'
import { fittedInto, unreachable } from '@core/model'
import type { Picture, Point, Rect, Size, Step, Stroke } from '@core/model'
import { paintCaption } from './caption'
import { paintClip } from './clip'
import { paintComposed } from './composed'
import type { Drawable, FiledPicture, PaintContext, PictureShelf } from './context'
import { paintInset, paintInsetGround } from './inset'
import { paintObject } from './object'
import { paintOverlay } from './overlay'

/** Colour of a blanked screen, and of what is around a slide that shares the frame with the face. */
const BLANK = '#101C1A'
/** Colour around a page whose shape is not the deck's. */
const PAGE_GROUND = '#FFFFFF'
/** How much a marker covers: what is under it can still be read. */
const MARKER_ALPHA = 0.4

/** Draws a picture as large as fits, centred on its ground. */
function paintFiled<Image>(ctx: PaintContext<Image>, drawable: Drawable<Image> | undefined, picture: FiledPicture, size: Size): void {
  ctx.fillStyle = picture.kind === 'image' ? picture.ground : PAGE_GROUND
  ctx.fillRect(0, 0, size.width, size.height)
  if (drawable === undefined) return
  const { x, y, w, h } = fittedInto(picture.size, size)
  const [left, top, width, height] = [x * size.width, y * size.height, w * size.width, h * size.height]
  ctx.drawImage(drawable.image, 0, 0, drawable.width, drawable.height, left, top, width, height)
}

/** Draws what a step shows. @param coming see `paintComposed` */
export function paintPicture<Image>(
  ctx: PaintContext<Image>,
  picture: Picture,
  size: Size,
  shelf: PictureShelf<Image>,
  revealProgress = 1,
): void {
  if (picture.kind === 'composed') paintComposed(ctx, picture, size, shelf, revealProgress)
  else paintFiled(ctx, shelf.ofStep(picture), picture, size)
}

function paintLabel<Image>(ctx: PaintContext<Image>, label: Stroke, size: Size): void {
  const { x, y, w, h, textX, letters } = labelBox(label, size)
  ctx.fillStyle = labelPlate(label.colour)
  ctx.fillRect(x * size.width, y * size.height, w * size.width, h * size.height)
  ctx.fillStyle = INK_HEX[label.colour]
  ctx.font = labelFont(label, size.height)
  ctx.textBaseline = 'alphabetic'
  ctx.textAlign = 'left'
  // Letters stand on a line somewhat below the middle: capitals of the shipped face are 0.68 of its size.
  ctx.fillText(label.text ?? '', textX * size.width, (y + h / 2 + letters * 0.34) * size.height)
}

/** Draws one stroke, as much of it as is due. */
export function paintStroke<Image>(ctx: PaintContext<Image>, drawn: DrawnStroke, size: Size): void {
  if (drawn.stroke.tool === 'label') {
    paintLabel(ctx, drawn.stroke, size)
    return
  }
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
  if (drawn.stroke.tool !== 'marker') {
    ctx.fill()
    return
  }
  ctx.save()
  ctx.globalAlpha = MARKER_ALPHA
  ctx.fill()
  ctx.restore()
}

/** Draws the pointer's spot: a warm disc with a rim that is seen on light and dark. */
export function paintSpot<Image>(ctx: PaintContext<Image>, at: Point, size: Size): void {
  const radius = SPOT.radius * size.height
  for (const { colour, alpha, reach } of SPOT.discs) {
    ctx.save()
    ctx.globalAlpha = alpha
    ctx.fillStyle = colour
    ctx.beginPath()
    ctx.ellipse(at.x * size.width, at.y * size.height, radius * reach, radius * reach, 0, 0, Math.PI * 2)
    ctx.fill()
    ctx.restore()
  }
}

/** What a step shows, and as far as it is still coming in, what was seen before it. */
function paintStep<Image>(ctx: PaintContext<Image>, view: SlideView, shown: Step, size: Size, shelf: PictureShelf<Image>): void {
  if (view.revealFrom === undefined) {
    paintPicture(ctx, shown.picture, size, shelf, view.revealProgress)
    return
  }
  paintPicture(ctx, view.revealFrom.picture, size, shelf)
  ctx.save()
  // What is the same in both stays as it is.
  ctx.globalAlpha *= view.revealProgress
  paintPicture(ctx, shown.picture, size, shelf)
  ctx.restore()
}

/** Slide and ink, into a part of the frame. */
function paintView<Image>(ctx: PaintContext<Image>, view: SlideView, size: Size, shelf: PictureShelf<Image>): void {
  if (view.shown === null) {
    ctx.fillStyle = BLANK
    ctx.fillRect(0, 0, size.width, size.height)
    return
  }
  const whole = isWhole(view.stage)
  if (!whole) {
    ctx.fillStyle = BLANK
    ctx.fillRect(0, 0, size.width, size.height)
  }
  ctx.save()
  const inner: Size = { width: view.stage.w * size.width, height: view.stage.h * size.height }
  if (!whole) {
    ctx.translate(view.stage.x * size.width, view.stage.y * size.height)
    ctx.beginPath()
    ctx.rect(0, 0, inner.width, inner.height)
    ctx.clip()
  }
  paintStep(ctx, view, view.shown, inner, shelf)
  for (const clip of view.clips) paintClip(ctx, clip, inner, shelf)
  for (const object of view.objects) paintObject(ctx, object, inner, shelf)
  for (const drawn of view.ink) paintStroke(ctx, drawn, inner)
  if (view.spot !== null) paintSpot(ctx, view.spot, inner)
  ctx.restore()
}

const isWhole = (stage: Rect): boolean => stage.x === 0 && stage.y === 0 && stage.w === 1 && stage.h === 1

/** One slide taking the place of another. */
function paintTransition<Image>(ctx: PaintContext<Image>, scene: Scene, size: Size, shelf: PictureShelf<Image>): void {
  const { transition } = scene
  if (transition === null) {
    paintView(ctx, scene, size, shelf)
    return
  }
  const { progress } = transition
  switch (transition.kind) {
    case 'fade':
      paintView(ctx, transition.from, size, shelf)
      ctx.save()
      ctx.globalAlpha = progress
      paintView(ctx, scene, size, shelf)
      ctx.restore()
      return
    case 'push': {
      const shift = Math.round(size.width * progress)
      ctx.save()
      ctx.translate(-shift, 0)
      paintView(ctx, transition.from, size, shelf)
      ctx.restore()
      ctx.save()
      ctx.translate(size.width - shift, 0)
      paintView(ctx, scene, size, shelf)
      ctx.restore()
      return
    }
    case 'wipe':
      paintView(ctx, transition.from, size, shelf)
      ctx.save()
      ctx.beginPath()
      ctx.rect(0, 0, Math.round(size.width * progress), size.height)
      ctx.clip()
      paintView(ctx, scene, size, shelf)
      ctx.restore()
      return
    default:
      unreachable(transition.kind)
  }
}

/**
 * Draws all of a scene but the camera picture: the slide, its ink, the ground of the inset, what lies over it and what is to be read.
 * Browser and export both draw with this, so that what Review shows is what the file holds.
 */
export function paintScene<Image>(ctx: PaintContext<Image>, whole: Scene, size: Size, shelf: PictureShelf<Image>): void {
  const scene = asSeen(whole)
  paintTransition(ctx, scene, size, shelf)
  if (scene.inset !== null) paintInsetGround(ctx, scene.inset.framing, size)
  for (const over of scene.overlays) if (over.overlay.kind !== 'card' || scene.inset === null) paintOverlay(ctx, over, size, shelf)
  if (scene.caption !== null) paintCaption(ctx, scene.caption, size)
}

/**
 * Draws the camera picture over a scene that has one, and what lies over both.
 * @param camera null: it is not there yet
 */
export function paintFace<Image>(
  ctx: PaintContext<Image>,
  whole: Scene,
  camera: Drawable<Image> | null,
  size: Size,
  shelf: PictureShelf<Image>,
): void {
  const scene = asSeen(whole)
  if (scene.inset === null) return
  if (camera !== null) paintInset(ctx, camera, scene.inset.framing, size)
  const cards = scene.overlays.filter(({ overlay }) => overlay.kind === 'card')
  for (const card of cards) paintOverlay(ctx, card, size, shelf)
  if (cards.length > 0 && scene.caption !== null) paintCaption(ctx, scene.caption, size)
}
