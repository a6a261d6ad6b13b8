import { ARROW_HEAD } from '@core/objects'
import type { ObjectScene } from '@core/objects'
import { PALETTES, setWordsOn } from '@core/compose'
import type { Mark, Palette, WordsOn } from '@core/compose'
import { fittedInto, unreachable } from '@core/model'
import type { ColourOnSlide, ObjectForm, Point, Size, SlideObject } from '@core/model'
import { paintMark } from './composed'
import type { PaintContext, PictureShelf } from './context'

/** Room between an object's edge and its words, in layout units, and the height of their letters. */
export const LABEL_PADDING = 16
export const LABEL_LETTERS = 34

/** What an object is painted with; lengths in pixels of the slide. */
interface Brush<Image> {
  readonly ctx: PaintContext<Image>
  /** Of the object's box, whose middle is where the context begins. */
  readonly size: Size
  /** The slide's shorter side. */
  readonly short: number
  readonly palette: Palette
  readonly shelf: PictureShelf<Image>
}

const laid = new WeakMap<SlideObject, { readonly key: string; readonly marks: readonly Mark[] }>()

/** Words of an object in layout units, with its middle at the beginning; set once for a size. */
function marksOf(object: SlideObject, words: WordsOn, size: Size, padding: number): readonly Mark[] {
  const key = `${String(size.width)} ${String(size.height)}`
  const known = laid.get(object)
  if (known?.key === key) return known.marks
  const area = {
    x: padding - size.width / 2,
    y: padding - size.height / 2,
    width: Math.max(1, size.width - 2 * padding),
    height: Math.max(1, size.height - 2 * padding),
  }
  const marks = setWordsOn(words, area)
  laid.set(object, { key, marks })
  return marks
}

function paintWords<Image>({ ctx, size, short, palette, shelf }: Brush<Image>, object: SlideObject, words: WordsOn, padding: number): void {
  if (words.text.trim() === '') return
  const scale = short / 1000
  const units = { width: Number((size.width / scale).toFixed(2)), height: Number((size.height / scale).toFixed(2)) }
  ctx.save()
  ctx.beginPath()
  ctx.rect(-size.width / 2, -size.height / 2, size.width, size.height)
  ctx.clip()
  for (const mark of marksOf(object, words, units, padding)) paintMark(ctx, mark, scale, palette, shelf)
  ctx.restore()
}

/** Letters on a filled object are in the colour that is read best on it. */
export const onFill = (colour: ColourOnSlide): ColourOnSlide => (colour === 'shade' || colour === 'ground' ? 'text' : 'ground')

function lineAlong<Image>({ ctx, short }: Brush<Image>, points: readonly Point[], breadth: number): void {
  const [first, ...rest] = points
  if (first === undefined) return
  ctx.lineWidth = breadth * short
  ctx.lineCap = 'round'
  ctx.lineJoin = 'round'
  ctx.beginPath()
  ctx.moveTo(first.x, first.y)
  // A line of one point is a dot.
  for (const { x, y } of rest.length === 0 ? [first] : rest) ctx.lineTo(x, y)
  ctx.stroke()
}

/** The ends of a line in its box, in pixels from its middle. */
function endsOf({ size }: { readonly size: Size }, slant: 'falling' | 'rising'): readonly [Point, Point] {
  const [x, y] = [size.width / 2, size.height / 2]
  return slant === 'falling'
    ? [
        { x: -x, y: -y },
        { x, y },
      ]
    : [
        { x: -x, y },
        { x, y: -y },
      ]
}

function paintArrow<Image>(brush: Brush<Image>, form: Extract<ObjectForm, { kind: 'arrow' }>): void {
  const { ctx, short } = brush
  const [left, right] = endsOf(brush, form.slant)
  const [from, tip] = form.back ? [right, left] : [left, right]
  const length = Math.hypot(tip.x - from.x, tip.y - from.y)
  if (length === 0) return
  const head = Math.min(length, form.breadth * short * ARROW_HEAD)
  const [dx, dy] = [(tip.x - from.x) / length, (tip.y - from.y) / length]
  const neck = { x: tip.x - dx * head * 0.9, y: tip.y - dy * head * 0.9 }
  lineAlong(brush, [from, neck], form.breadth)
  const side = head * 0.5
  ctx.beginPath()
  ctx.moveTo(tip.x, tip.y)
  ctx.lineTo(tip.x - dx * head - dy * side, tip.y - dy * head + dx * side)
  ctx.lineTo(tip.x - dx * head + dy * side, tip.y - dy * head - dx * side)
  ctx.closePath()
  ctx.fill()
}

/** A box whose edge goes out to its tip where that lies outside. */
function paintCallout<Image>({ ctx, size }: Brush<Image>, tip: Point): void {
  const [x, y] = [size.width / 2, size.height / 2]
  const point = { x: (tip.x - 0.5) * size.width, y: (tip.y - 0.5) * size.height }
  ctx.beginPath()
  ctx.rect(-x, -y, size.width, size.height)
  ctx.fill()
  // It stands on the edge that it leaves by, as near to the tip as there is room.
  const root = Math.min(size.width, size.height) * 0.16
  const across = Math.abs(point.x) / x > Math.abs(point.y) / y
  const base = across
    ? { x: Math.sign(point.x) * x * 0.9, y: Math.max(root - y, Math.min(y - root, point.y * 0.5)) }
    : { x: Math.max(root - x, Math.min(x - root, point.x * 0.5)), y: Math.sign(point.y) * y * 0.9 }
  const [dx, dy] = across ? [0, root] : [root, 0]
  ctx.beginPath()
  ctx.moveTo(base.x - dx, base.y - dy)
  ctx.lineTo(point.x, point.y)
  ctx.lineTo(base.x + dx, base.y + dy)
  ctx.closePath()
  ctx.fill()
}

function paintPictureOf<Image>({ ctx, size, palette, shelf }: Brush<Image>, form: Extract<ObjectForm, { kind: 'picture' }>): void {
  const drawable = shelf.ofAsset(form.asset)
  if (drawable === undefined) {
    ctx.fillStyle = palette.shade
    ctx.fillRect(-size.width / 2, -size.height / 2, size.width, size.height)
    return
  }
  const { x, y, w, h } = fittedInto({ width: drawable.width, height: drawable.height }, size)
  const [left, top] = [(x - 0.5) * size.width, (y - 0.5) * size.height]
  ctx.drawImage(drawable.image, 0, 0, drawable.width, drawable.height, left, top, w * size.width, h * size.height)
}

function outlined<Image>(brush: Brush<Image>, { kind, filled, breadth }: Extract<ObjectForm, { kind: 'box' | 'ellipse' }>): void {
  const { ctx, size, short } = brush
  ctx.beginPath()
  if (kind === 'ellipse') ctx.ellipse(0, 0, size.width / 2, size.height / 2, 0, 0, Math.PI * 2)
  else ctx.rect(-size.width / 2, -size.height / 2, size.width, size.height)
  if (filled) {
    ctx.fill()
    return
  }
  ctx.lineWidth = breadth * short
  ctx.lineJoin = 'round'
  ctx.stroke()
}

function paintForm<Image>(brush: Brush<Image>, object: SlideObject): void {
  const { form, colour } = object
  const { size } = brush
  const label = (text: string, on: ColourOnSlide): WordsOn => ({ text, letters: LABEL_LETTERS, align: 'middle', colour: on, middle: true })
  switch (form.kind) {
    case 'text':
      paintWords(brush, object, { text: form.text, letters: form.letters * 1000, align: form.align, colour, middle: false }, 0)
      return
    case 'picture':
      paintPictureOf(brush, form)
      return
    case 'line':
      lineAlong(brush, endsOf(brush, form.slant), form.breadth)
      return
    case 'arrow':
      paintArrow(brush, form)
      return
    case 'box':
    case 'ellipse':
      outlined(brush, form)
      paintWords(brush, object, label(form.label, form.filled ? onFill(colour) : 'text'), LABEL_PADDING)
      return
    case 'callout':
      paintCallout(brush, form.tip)
      paintWords(brush, object, label(form.label, onFill(colour)), LABEL_PADDING)
      return
    case 'freehand':
      lineAlong(
        brush,
        form.points.map(({ x, y }) => ({ x: (x - 0.5) * size.width, y: (y - 0.5) * size.height })),
        form.breadth,
      )
      return
    default:
      unreachable(form)
  }
}

/** Draws an object as it is at its moment. @param size of the slide in pixels */
export function paintObject<Image>(ctx: PaintContext<Image>, scene: ObjectScene, size: Size, shelf: PictureShelf<Image>): void {
  const { object, at, turn, scale, opacity } = scene
  const palette = PALETTES[scene.theme]
  if (scale <= 0 || opacity <= 0) return
  ctx.save()
  ctx.translate(at.x * size.width, at.y * size.height)
  ctx.rotate((turn * Math.PI) / 180)
  ctx.scale(scale, scale)
  ctx.globalAlpha *= opacity
  ctx.fillStyle = palette[object.colour]
  ctx.strokeStyle = palette[object.colour]
  const box = { width: object.box.w * size.width, height: object.box.h * size.height }
  paintForm({ ctx, size: box, short: Math.min(size.width, size.height), palette, shelf }, object)
  ctx.restore()
}
