import { PLAIN_FRAMING } from '@core/model'
import type { Framing, Outline, Rect, Size } from '@core/model'
import { EMPTY_CONTENT, coverageOf, mergeContent, summed } from './content-grid'
import type { ContentGrid } from './content-grid'
import { USUAL_SIZE, insetExtent } from './inset-place'
import { AIR, COLUMNS, ROWS, SCALES, placeRect, reluctance } from './inset-places'

/** Covering more than this share of what is on a slide is worth a warning, and another place where there is one. */
export const MOST_COVERED = 0.03
/** As good as nothing. */
const NOTHING = 0.004

interface Place {
  readonly rect: Rect
  readonly covered: number
  readonly cost: number
}

/** Of all places for a face of some size the one that costs least: covering anything costs more than lying anywhere. */
function bestPlace(sums: Parameters<typeof coverageOf>[0], { w, h }: Pick<Rect, 'w' | 'h'>, shape: Size): Place | null {
  let best: Place | null = null
  for (let row = 0; row < ROWS; row += 1) {
    for (let column = 0; column < COLUMNS; column += 1) {
      const rect = placeRect(column, row, { w, h }, shape)
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
  let least: Place | null = null
  for (const scale of SCALES) {
    const best = bestPlace(sums, insetExtent(outline, USUAL_SIZE * scale, shape), shape)
    if (best !== null && best.covered <= NOTHING) return { ...PLAIN_FRAMING, outline, rect: best.rect }
    if (best !== null && (least === null || best.covered < least.covered * 0.7)) least = best
  }
  return { ...PLAIN_FRAMING, outline, rect: least?.rect ?? { x: 0, y: 0, ...insetExtent(outline, USUAL_SIZE, shape) } }
}
