import type { Ms } from './time'

/** Some words that stand on screen together, one line or two. */
export interface Caption {
  readonly from: Ms
  readonly until: Ms
  readonly lines: readonly string[]
}

export const MOST_LINES = 2
/** Signs of a line at most; of scripts whose signs fill a square each, fewer. */
export const MOST_SIGNS = 42
export const MOST_WIDE_SIGNS = 16

export const CAPTION_SIZES = ['small', 'usual', 'large'] as const
/**
 * Where captions stand: `free`, where they hide nothing of the slide and not the face, else in a strip below the picture; at its `foot` or
 * its `head`, beside the face where it is there; or always in a `strip`.
 */
export const CAPTION_PLACES = ['free', 'foot', 'head', 'strip'] as const
/** What is behind them: a dark plate, a light one, or none, with an edge round the letters. */
export const CAPTION_GROUNDS = ['dark', 'light', 'none'] as const

/** What captions on the picture look like. */
export interface CaptionStyle {
  readonly size: (typeof CAPTION_SIZES)[number]
  readonly place: (typeof CAPTION_PLACES)[number]
  readonly ground: (typeof CAPTION_GROUNDS)[number]
}

export const USUAL_CAPTIONS: CaptionStyle = { size: 'usual', place: 'free', ground: 'dark' }
