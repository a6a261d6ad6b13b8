import { PALETTES, isRightToLeft, layPlate, unitsOf } from '@core/compose'
import type { Plate } from '@core/compose'
import { unreachable } from '@core/model'
import type { CardOverlay, LowerThirdOverlay, PictureOverlay, PixelBox, Rect, Size, TextOverlay } from '@core/model'
import type { OverlayScene } from '@core/scene'
import { paintComposed, paintMark } from './composed'
import type { Composed } from './composed'
import type { PaintContext, PictureShelf } from './context'
import { evenBox } from './even-box'

/** How far a plate comes from its side, as a fraction of the frame's width. */
const COMES_FROM = 0.02
/** A plate lets a little of the slide be seen through. */
const PLATE = 0.95

type Worded = LowerThirdOverlay | TextOverlay

const plates = new WeakMap<Worded, { readonly key: string; readonly plate: Plate | null }>()
const cards = new WeakMap<CardOverlay, { readonly key: string; readonly picture: Composed }>()

const keyOf = ({ width, height }: Size): string => (width / height).toFixed(4)

function plateOf(overlay: Worded, size: Size): Plate | null {
  const key = keyOf(size)
  const known = plates.get(overlay)
  if (known?.key === key) return known.plate
  const plate = layPlate(overlay, size)
  plates.set(overlay, { key, plate })
  return plate
}

/** A card is laid out like the opening of a deck. */
function pictureOf(overlay: CardOverlay, size: Size): Composed {
  const key = keyOf(size)
  const known = cards.get(overlay)
  if (known?.key === key) return known.picture
  const { theme, heading, body } = overlay
  const composition = { layout: 'opening', theme, heading, body, second: '', pictures: [], reveal: 'together' } as const
  const picture: Composed = { kind: 'composed', composition, shown: 0, clear: null, size }
  cards.set(overlay, { key, picture })
  return picture
}

/** The floor of a card, in layout units: how far it is from the edges, and how long the slab is that stands on it. */
const FLOOR = { beside: 74, above: 92, line: 3, slab: 168, high: 13 } as const

/** A card stands on a floor, as slides do on the aisle. */
function paintCard<Image>(ctx: PaintContext<Image>, overlay: CardOverlay, size: Size, shelf: PictureShelf<Image>): void {
  paintComposed(ctx, pictureOf(overlay, size), size, shelf, 1)
  const frame = unitsOf(size)
  const scale = size.width / frame.width
  const palette = PALETTES[overlay.theme]
  const [y, width] = [frame.height - FLOOR.above, frame.width - 2 * FLOOR.beside]
  const slab = isRightToLeft(overlay.heading) ? FLOOR.beside + width - FLOOR.slab : FLOOR.beside
  ctx.fillStyle = palette.shade
  ctx.fillRect(FLOOR.beside * scale, y * scale, width * scale, FLOOR.line * scale)
  ctx.fillStyle = palette.mark
  ctx.fillRect(slab * scale, (y - FLOOR.high) * scale, FLOOR.slab * scale, FLOOR.high * scale)
}

const shiftOf = ({ box, there }: OverlayScene): number => (1 - there) * COMES_FROM * (box.x + box.w / 2 <= 0.5 ? -1 : 1)

/** Pixels of a frame that something of an overlay may lie in. */
export function overlayBox({ overlay, box }: OverlayScene, size: Size): PixelBox {
  const by = overlay.kind === 'card' ? 0 : COMES_FROM
  return evenBox(
    {
      left: (box.x - by) * size.width,
      right: (box.x + box.w + by) * size.width,
      top: box.y * size.height,
      bottom: (box.y + box.h) * size.height,
    },
    size,
  )
}

function paintPlate<Image>(ctx: PaintContext<Image>, scene: OverlayScene, overlay: Worded, size: Size, shelf: PictureShelf<Image>): void {
  const plate = plateOf(overlay, size)
  if (plate === null) return
  const palette = PALETTES[overlay.theme]
  const scale = size.width / unitsOf(size).width
  ctx.translate((scene.box.x + shiftOf(scene)) * size.width, scene.box.y * size.height)
  ctx.save()
  ctx.globalAlpha *= PLATE
  ctx.fillStyle = palette.ground
  ctx.fillRect(0, 0, plate.width * scale, plate.height * scale)
  ctx.restore()
  for (const mark of plate.marks) paintMark(ctx, mark, scale, palette, shelf)
}

function paintPicture<Image>(ctx: PaintContext<Image>, { asset }: PictureOverlay, box: Rect, size: Size, shelf: PictureShelf<Image>): void {
  const drawable = shelf.ofAsset(asset)
  if (drawable === undefined) return
  const [x, y, w, h] = [box.x * size.width, box.y * size.height, box.w * size.width, box.h * size.height]
  ctx.drawImage(drawable.image, 0, 0, drawable.width, drawable.height, x, y, w, h)
}

/** Draws something that lies over a film, as far as it has come. */
export function paintOverlay<Image>(ctx: PaintContext<Image>, scene: OverlayScene, size: Size, shelf: PictureShelf<Image>): void {
  const { overlay, there } = scene
  if (there <= 0) return
  ctx.save()
  ctx.globalAlpha *= there
  switch (overlay.kind) {
    case 'card':
      paintCard(ctx, overlay, size, shelf)
      break
    case 'lower-third':
    case 'text':
      paintPlate(ctx, scene, overlay, size, shelf)
      break
    case 'picture':
      paintPicture(ctx, overlay, scene.box, size, shelf)
      break
    default:
      unreachable(overlay)
  }
  ctx.restore()
}
