import type { RefusalCode, Size } from '@core/model'

/** A page or picture to be drawn, on the drawing program's standard input, a line of JSON each. */
export interface DrawOrder {
  readonly path: string
  /** Counted from 1; null: it is a picture. */
  readonly page: number | null
  /** What it is to fit into, in pixels. */
  readonly box: Size
}

/** What is answered in the order that was asked: a line of JSON each, and after `drawn` the pixels, four bytes each, row by row. */
export type DrawAnswer =
  { readonly kind: 'drawn'; readonly size: Size } | { readonly kind: 'refused'; readonly code: RefusalCode; readonly sentence: string }
