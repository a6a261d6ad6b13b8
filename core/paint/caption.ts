import { captionFont, setCaption } from '@core/captions'
import { unreachable } from '@core/model'
import type { CaptionStyle, PixelBox, Size } from '@core/model'
import type { CaptionScene } from '@core/scene'
import type { PaintContext } from './context'
import { evenBox } from './even-box'

/** Letters and what is behind them. */
const COLOURS: Readonly<Record<CaptionStyle['ground'], { readonly letters: string; readonly ground: string }>> = {
  dark: { letters: '#FFFDF8', ground: '#14201E' },
  light: { letters: '#1D2A29', ground: '#FFFDF8' },
  none: { letters: '#FFFDF8', ground: '#14201E' },
}
/** A plate lets a little of the slide be seen through. */
const PLATE = 0.88
/** Width of the edge round letters without a plate, in sizes of the letters. */
const EDGE = 0.07
/** From a line's upper edge to what its letters stand on, in line heights. */
const BASELINE = 0.73
const ROUND: readonly (readonly [number, number])[] = [
  [1, 0],
  [0.7, 0.7],
  [0, 1],
  [-0.7, 0.7],
  [-1, 0],
  [-0.7, -0.7],
  [0, -1],
  [0.7, -0.7],
]

/** Where a caption stands in a frame: pixels that nothing of it leaves. */
export function captionBox({ lines, style, middle, foot }: CaptionScene, size: Size): PixelBox {
  const { lineHeight, widths } = setCaption(lines, style, size)
  const beside = Math.max(0, ...widths) / 2
  const [centre, bottom] = [middle * size.width, foot * size.height]
  return evenBox({ left: centre - beside, right: centre + beside, top: bottom - lineHeight * lines.length, bottom }, size)
}

/** Draws words that stand on the picture. */
export function paintCaption<Image>(ctx: PaintContext<Image>, caption: CaptionScene, size: Size): void {
  const { letters, lineHeight, widths } = setCaption(caption.lines, caption.style, size)
  const colours = COLOURS[caption.style.ground]
  const top = caption.foot * size.height - lineHeight * caption.lines.length
  const middle = caption.middle * size.width
  ctx.save()
  ctx.font = captionFont(letters)
  ctx.textAlign = 'center'
  ctx.textBaseline = 'alphabetic'
  for (const [n, line] of caption.lines.entries()) {
    const y = top + n * lineHeight
    paintGround(ctx, caption.style.ground, { line, y, middle, width: widths[n] ?? 0, lineHeight, letters })
    ctx.fillStyle = colours.letters
    ctx.fillText(line, middle, y + lineHeight * BASELINE)
  }
  ctx.restore()
}

/** A line of a caption in pixels. */
interface Line {
  readonly line: string
  /** Its upper edge. */
  readonly y: number
  readonly middle: number
  readonly width: number
  readonly lineHeight: number
  readonly letters: number
}

/** Draws what is behind a line: its plate, or an edge round its letters. */
function paintGround<Image>(
  ctx: PaintContext<Image>,
  ground: CaptionStyle['ground'],
  { line, y, middle, width, lineHeight, letters }: Line,
): void {
  ctx.fillStyle = COLOURS[ground].ground
  switch (ground) {
    case 'dark':
    case 'light':
      ctx.save()
      ctx.globalAlpha = PLATE
      ctx.fillRect(middle - width / 2, y, width, lineHeight)
      ctx.restore()
      return
    case 'none':
      for (const [across, down] of ROUND)
        ctx.fillText(line, middle + across * letters * EDGE, y + lineHeight * BASELINE + down * letters * EDGE)
      return
    default:
      unreachable(ground)
  }
}
