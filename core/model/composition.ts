import type { Size } from './geometry'
import type { AssetId } from './id'

export const LAYOUTS = ['opening', 'claim', 'points', 'plate', 'pair', 'plate-points', 'voice', 'bare'] as const
/**
 * How a slide made here is laid out. `opening`: a title and what stands under it. `claim`: one sentence, large. `points`:
 * a heading over text. `plate`: one picture with its line. `pair`: two halves side by side. `plate-points`: a picture
 * beside text. `voice`: few words beside a large face. `bare`: the ground alone, to be drawn on.
 */
export type Layout = (typeof LAYOUTS)[number]

/** Layouts that have a place for pictures. */
export const LAYOUTS_WITH_PICTURES: ReadonlySet<Layout> = new Set(['plate', 'pair', 'plate-points'])

export const THEMES = ['paper', 'harbour', 'dusk'] as const
export type Theme = (typeof THEMES)[number]

export const COLOURS_ON_SLIDES = ['ground', 'text', 'soft', 'mark', 'shade'] as const
/** What colours of a theme are for; `mark` is for what stands out, `shade` lies behind something. */
export type ColourOnSlide = (typeof COLOURS_ON_SLIDES)[number]

export const REVEALS = ['together', 'appear', 'fade', 'slide'] as const
/** How points and pictures come in: all at once, or one a step in one of three ways. */
export type Reveal = (typeof REVEALS)[number]

/** A picture on a slide made here. */
export interface ComposedPicture {
  readonly asset: AssetId
  readonly size: Size
  /** What it shows, for those who do not see it. */
  readonly alt: string
  /** Of a code to scan, and a link wherever the slide is clicked on: where it leads, with the scheme http or https. */
  readonly leadsTo?: string
}

/** A slide made here: its words as CommonMark, its pictures, its layout. How it looks follows from these alone. */
export interface Composition {
  readonly layout: Layout
  readonly theme: Theme
  /** One line of CommonMark inlines. */
  readonly heading: string
  /** CommonMark blocks. */
  readonly body: string
  /** The right half of a `pair`; empty elsewhere. */
  readonly second: string
  readonly pictures: readonly ComposedPicture[]
  readonly reveal: Reveal
}

/** Most pictures on one slide. */
export const MOST_PICTURES = 6
