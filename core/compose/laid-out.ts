import type { AssetId, ColourOnSlide, Rect, Size } from '@core/model'
import type { SetRun } from './set-text'

/** A rectangle in layout units: the slide's shorter side is 1000. */
export interface Box {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/** One thing that is drawn. `part` is which of the parts that come one by one it belongs to; null when it is there from the first. */
export type Mark =
  | {
      readonly kind: 'line'
      readonly box: Box
      readonly baseline: number
      readonly runs: readonly SetRun[]
      readonly rtl: boolean
      readonly colour: ColourOnSlide
      readonly part: number | null
    }
  | {
      readonly kind: 'picture'
      readonly box: Box
      readonly asset: AssetId
      readonly size: Size
      /** Where a code to scan leads. */
      readonly leadsTo?: string
      readonly part: number | null
    }
  | { readonly kind: 'fill'; readonly box: Box; readonly colour: ColourOnSlide; readonly round: boolean; readonly part: number | null }

/** Places on a slide that can be edited, for the bench; null where the layout has none. */
export interface Slots {
  readonly heading: Box | null
  readonly body: Box | null
  readonly second: Box | null
  readonly pictures: Box | null
}

/** A slide laid out. */
export interface LaidOut {
  readonly width: number
  readonly height: number
  readonly marks: readonly Mark[]
  readonly slots: Slots
  /** How many parts come one by one. */
  readonly parts: number
  /** There is more text than fits at the smallest size. */
  readonly overfull: boolean
}

/** Layout units of a slide of some shape. */
export function unitsOf(shape: Size): Size {
  const short = Math.min(shape.width, shape.height)
  return { width: (1000 * shape.width) / short, height: (1000 * shape.height) / short }
}

/** A part of a slide in fractions, as layout units. */
export const boxOfRect = (rect: Rect, units: Size): Box => ({
  x: rect.x * units.width,
  y: rect.y * units.height,
  width: rect.w * units.width,
  height: rect.h * units.height,
})

export const overlaps = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height
