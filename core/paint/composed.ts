import { PALETTES, cssFont, isThere, layOut } from '@core/compose'
import type { LaidOut, Mark, Palette } from '@core/compose'
import type { Picture, Size } from '@core/model'
import type { Drawable, PaintContext, PictureShelf } from './context'

export type Composed = Extract<Picture, { kind: 'composed' }>

const laidOut = new WeakMap<object, { readonly key: string; readonly laid: LaidOut }>()

/** Laying out is the same until something changes; frames of a film mostly ask for the same. */
function layOutOnce(picture: Composed): LaidOut {
  const key = JSON.stringify([picture.size, picture.clear])
  const known = laidOut.get(picture.composition)
  if (known?.key === key) return known.laid
  const laid = layOut(picture.composition, picture.size, picture.clear)
  laidOut.set(picture.composition, { key, laid })
  return laid
}

/** How far what comes in by sliding begins from its place, in layout units. */
const SLIDE = 60

/** Draws a mark of what was laid out. @param scale pixels of a layout unit */
export function paintMark<Image>(ctx: PaintContext<Image>, mark: Mark, scale: number, palette: Palette, shelf: PictureShelf<Image>): void {
  const { box } = mark
  switch (mark.kind) {
    case 'fill':
      ctx.fillStyle = palette[mark.colour]
      ctx.beginPath()
      if (mark.round)
        ctx.ellipse(
          (box.x + box.width / 2) * scale,
          (box.y + box.height / 2) * scale,
          (box.width / 2) * scale,
          (box.height / 2) * scale,
          0,
          0,
          Math.PI * 2,
        )
      else ctx.rect(box.x * scale, box.y * scale, box.width * scale, box.height * scale)
      ctx.fill()
      return
    case 'line':
      ctx.fillStyle = palette[mark.colour]
      ctx.textBaseline = 'alphabetic'
      ctx.direction = mark.rtl ? 'rtl' : 'ltr'
      ctx.textAlign = 'left'
      for (const run of mark.runs) {
        ctx.font = cssFont(run.font, scale)
        ctx.fillText(run.text, run.x * scale, mark.baseline * scale)
      }
      return
    case 'picture': {
      const drawable: Drawable<Image> | undefined = shelf.ofAsset(mark.asset)
      if (drawable === undefined) {
        ctx.fillStyle = palette.shade
        ctx.fillRect(box.x * scale, box.y * scale, box.width * scale, box.height * scale)
      } else {
        ctx.drawImage(
          drawable.image,
          0,
          0,
          drawable.width,
          drawable.height,
          box.x * scale,
          box.y * scale,
          box.width * scale,
          box.height * scale,
        )
      }
    }
  }
}

/**
 * Draws a slide that was made here.
 * @param coming how far its newest part has come in, 0 to 1; 1 when nothing is coming
 */
export function paintComposed<Image>(
  ctx: PaintContext<Image>,
  picture: Composed,
  size: Size,
  shelf: PictureShelf<Image>,
  revealProgress: number,
): void {
  const laid = layOutOnce(picture)
  const palette = PALETTES[picture.composition.theme]
  const scale = Math.min(size.width / laid.width, size.height / laid.height)
  ctx.save()
  ctx.fillStyle = palette.ground
  ctx.fillRect(0, 0, size.width, size.height)
  for (const mark of laid.marks) {
    if (!isThere(mark, picture.shown)) continue
    const fresh = revealProgress < 1 && mark.part !== null && mark.part === picture.shown - 1
    if (!fresh || picture.composition.reveal === 'appear') {
      paintMark(ctx, mark, scale, palette, shelf)
      continue
    }
    ctx.save()
    ctx.globalAlpha = revealProgress
    if (picture.composition.reveal === 'slide') ctx.translate((1 - revealProgress) * SLIDE * scale, 0)
    paintMark(ctx, mark, scale, palette, shelf)
    ctx.restore()
  }
  ctx.restore()
}
