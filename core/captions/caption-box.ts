import { cssFont, textWidth } from '@core/compose'
import type { Font } from '@core/compose'
import { MOST_LINES, MOST_SIGNS } from '@core/model'
import type { CaptionStyle, Rect, Size } from '@core/model'

/** Size of the letters, as a fraction of the frame's shorter side. */
const LETTERS: Readonly<Record<CaptionStyle['size'], number>> = { small: 0.038, usual: 0.048, large: 0.064 }
/** A usual sign's width, in sizes of its letters: so wide a full line is in most fonts. */
const SIGN = 0.52
/** A line is so high, and its plate so much wider than its words on either side, in sizes of the letters. */
const LINE = 1.34
const AROUND = 0.42
/** The widest a caption may be, as a fraction of the frame's width. */
const WIDEST = 0.94

/** How wide and high something is, in fractions of the frame. */
export type Extent = Pick<Rect, 'w' | 'h'>

const fontOf = (size: number): Font => ({ face: 'read', bold: false, italic: false, size })

/** Size of the letters in the unit of `frame`: smaller than wished for where a full line would not fit across it. */
function lettersOf({ size }: Pick<CaptionStyle, 'size'>, frame: Size): number {
  const wanted = LETTERS[size] * Math.min(frame.width, frame.height)
  return Math.min(wanted, (WIDEST * frame.width) / (MOST_SIGNS * SIGN + 2 * AROUND))
}

/** A caption as it is set in a frame, in the unit in which the frame is given. */
export interface SetCaption {
  /** Size of the letters. */
  readonly letters: number
  readonly lineHeight: number
  /** Width of each line's plate. */
  readonly widths: readonly number[]
}

/** Sets a caption's lines. A line of uncommonly wide signs is set smaller with the others, so that it stays in the frame. */
export function setCaption(lines: readonly string[], style: Pick<CaptionStyle, 'size'>, frame: Size): SetCaption {
  const usual = lettersOf(style, frame)
  const widest = Math.max(0, ...lines.map((line) => textWidth(line, fontOf(usual)))) + 2 * AROUND * usual
  const letters = usual * Math.min(1, (WIDEST * frame.width) / widest)
  return {
    letters,
    lineHeight: usual * LINE,
    widths: lines.map((line) => textWidth(line, fontOf(letters)) + 2 * AROUND * letters),
  }
}

/** The room that some captions need, whichever of them is up: as wide as the widest, and as high as two lines. */
export function extentOf(captions: readonly (readonly string[])[], style: Pick<CaptionStyle, 'size'>, frame: Size): Extent {
  const widths = captions.flatMap((lines) => setCaption(lines, style, frame).widths)
  return {
    w: Math.max(0, ...widths) / frame.width,
    h: (MOST_LINES * LINE * lettersOf(style, frame)) / frame.height,
  }
}

/** How canvases name the font of captions. @param letters in pixels */
export const captionFont = (letters: number): string => cssFont(fontOf(letters), 1)
