import type { Composition, PageLink, RefusalCode, Size } from '@core/model'

/** What the deck reader is asked, on its standard input. */
export interface ReadDeckOrder {
  readonly files: readonly { readonly path: string; readonly name: string }[]
  /** Folder for the pictures it makes. */
  readonly out: string
  readonly maxPages: number
  /** Most bytes that archives may unpack to, all together. */
  readonly maxUnpacked: number
  /** `slides`: a deck. `pictures`: pictures to be placed on a slide that is made here. */
  readonly purpose: 'slides' | 'pictures'
}

/** Where a step's source is: one of the order's files, or one that was unpacked into the order's folder. */
export type StepSource = { readonly kind: 'file'; readonly file: number } | { readonly kind: 'unpacked'; readonly name: string }

export interface ReadStep {
  readonly source: StepSource
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
  /** Left out: none. */
  readonly links?: readonly PageLink[]
}

/** A picture made ready to be placed on a slide: a file in the order's folder. */
export interface ReadPicture {
  readonly file: string
  readonly size: Size
  readonly alt: string
}

/** What it answers, a line of JSON each. */
export type DeckMessage =
  | { readonly kind: 'plan'; readonly pages: number; readonly shape: Size }
  /** `adds`: it only adds to the slide before it. */
  | { readonly kind: 'slide'; readonly title: string; readonly steps: readonly ReadStep[]; readonly adds: boolean }
  | {
      readonly kind: 'composed'
      readonly composition: Omit<Composition, 'pictures'>
      readonly pictures: readonly ReadPicture[]
      readonly notes: string
      readonly viewerNotes: string
    }
  | { readonly kind: 'picture'; readonly picture: ReadPicture }
  | { readonly kind: 'refused'; readonly code: RefusalCode; readonly sentence: string; readonly file: string | null }
  | { readonly kind: 'done' }
