import { PLAIN_FRAMING } from '@core/model'
import type { Framing, Outline, Point, Rect, Size } from '@core/model'
import { EMPTY_CONTENT, coverageOf, mergeContent, summed } from './content-grid'
import type { ContentGrid } from './content-grid'
import { USUAL_SIZE, insetExtent, insetMargin } from './inset-place'

/** Covering more than this share of what is on a slide is worth a warning, and another place where there is one. */
export const MOST_COVERED = 0.03
/** As good as nothing. */
const NOTHING = 0.004
const SCALES = [1, 0.85, 0.72, 0.6]
const COLUMNS = 29
const ROWS = 17
/** Room that is kept round the face, in fractions of the slide. */
const AIR = 0.02

interface Place {
  readonly rect: Rect
  readonly covered: number
  readonly cost: number
}

/** How willingly a place is taken: corners before edges before the middle, the lower right corner before all. */
function reluctance(column: number, row: number): number {
  const x = column / (COLUMNS - 1)
  const y = row / (ROWS - 1)
  const toSide = Math.min(x, 1 - x)
  const toEdge = Math.min(y, 1 - y)
  return Math.min(toSide, toEdge) * 4 + (toSide + toEdge) * 1.5 + (x < 0.5 ? 0.06 : 0) + (y < 0.5 ? 0.03 : 0)
}

/** Of all places for a face of some size the one that costs least: covering anything costs more than lying anywhere. */
function bestPlace(sums: Parameters<typeof coverageOf>[0], { w, h }: Pick<Rect, 'w' | 'h'>, margin: Point): Place | null {
  let best: Place | null = null
  for (let row = 0; row < ROWS; row += 1) {
    for (let column = 0; column < COLUMNS; column += 1) {
      const rect = {
        x: margin.x + (column / (COLUMNS - 1)) * (1 - 2 * margin.x - w),
        y: margin.y + (row / (ROWS - 1)) * (1 - 2 * margin.y - h),
        w,
        h,
      }
      const covered = coverageOf(sums, { x: rect.x - AIR, y: rect.y - AIR, w: w + 2 * AIR, h: h + 2 * AIR })
      const lying = reluctance(column, row) * 0.01
      const cost = covered <= NOTHING ? lying : covered * 100 + lying + 1
      if (best === null || cost < best.cost) best = { rect, covered, cost }
    }
  }
  return best
}

/**
 * Proposes where the camera picture goes: the place nearest a corner where it covers nothing that any step shows, made
 * smaller before it covers anything, and where nothing is free the place that covers least.
 * @param steps the content of each step of the slide
 * @param shape of the slide
 */
export function placeInset(steps: readonly ContentGrid[], shape: Size, outline: Outline = 'card'): Framing {
  const sums = summed(steps.length === 0 ? EMPTY_CONTENT : mergeContent(steps))
  const margin = insetMargin(shape)
  let least: Place | null = null
  for (const scale of SCALES) {
    const best = bestPlace(sums, insetExtent(outline, USUAL_SIZE * scale, shape), margin)
    if (best !== null && best.covered <= NOTHING) return { ...PLAIN_FRAMING, outline, rect: best.rect }
    if (best !== null && (least === null || best.covered < least.covered * 0.7)) least = best
  }
  return { ...PLAIN_FRAMING, outline, rect: least?.rect ?? { x: 0, y: 0, ...insetExtent(outline, USUAL_SIZE, shape) } }
}
