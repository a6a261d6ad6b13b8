import type { Size } from '@core/model'
import type { RefusalCode } from '@core/model'

/** What the deck reader is asked, on its standard input. */
export interface ReadDeckOrder {
  readonly files: readonly { readonly path: string, readonly name: string }[]
  /** Folder for the pictures it makes. */
  readonly out: string
  readonly maxPages: number
}

export interface ReadStep {
  readonly file: number
  readonly kind: 'page' | 'image'
  /** Counted from 1; 1 for a picture. */
  readonly page: number
  readonly size: Size
  readonly ground: string
  /** Files in the order's folder. */
  readonly screen: string
  readonly thumb: string
  readonly content: string
  readonly text: string
}

/** What it answers, a line of JSON each. */
export type DeckMessage =
  | { readonly kind: 'plan', readonly pages: number, readonly shape: Size }
  | { readonly kind: 'slide', readonly title: string, readonly steps: readonly ReadStep[] }
  | { readonly kind: 'refused', readonly code: RefusalCode, readonly sentence: string, readonly file: string | null }
  | { readonly kind: 'done' }
