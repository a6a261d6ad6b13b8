import { cssFont, textWidth } from '@core/compose'
import type { Font } from '@core/compose'
import type { InkWidth } from '@core/model'
import type { InkColour, Size, Stroke } from '@core/model'

/** Size of a label's letters for each width of ink, as a fraction of the slide's height. */
const LETTERS = { fine: 0.04, broad: 0.06 } as const satisfies Record<InkWidth, number>
/** Around the words, in sizes of its letters. */
const MARGIN = 0.4

/** A label as it is set: a plate with words on it, in fractions of the slide. */
export interface LabelBox {
  readonly x: number
  readonly y: number
  readonly w: number
  readonly h: number
  readonly textX: number
  /** As a fraction of the slide's height. */
  readonly letters: number
}

const fontOf = (size: number): Font => ({ face: 'read', bold: true, italic: false, size })

/** How canvases name the font of a label. @param height of the slide in pixels */
export const labelFont = (stroke: Stroke, height: number): string => cssFont(fontOf(LETTERS[stroke.width] * height), 1)

/** Where a label's plate lies. @param shape of the slide */
export function labelBox(stroke: Stroke, shape: Size): LabelBox {
  const [at] = stroke.points
  const letters = LETTERS[stroke.width]
  const margin = letters * MARGIN
  const ratio = shape.width / shape.height
  const h = letters + 2 * margin
  const w = (textWidth(stroke.text ?? '', fontOf(letters)) + 2 * margin) / ratio
  // Words that would run off the slide are moved back onto it, as far as they fit.
  const x = Math.max(0, Math.min(at?.x ?? 0, 1 - w))
  return {
    x,
    y: Math.max(0, Math.min(1 - h, (at?.y ?? 0) - h / 2)),
    h,
    letters,
    w,
    textX: x + margin / ratio,
  }
}

/** The plate under a label, so that its ink is read on any slide. */
export const labelPlate = (colour: InkColour): string => (colour === 'shell' || colour === 'marigold' ? '#1D2A29' : '#FFFDF8')
