import type { Framing, Rect } from '@core/model'
import { coverage, mergeContent } from './content'
import type { ContentGrid } from './content'

/** The upright card of a new talk: on a 16:9 slide its box is 3 wide to 4 high. */
const CARD = { w: 0.15, h: 0.3556 }
const MARGIN = { x: 0.02, y: 0.0356 }

/** Corners in the order in which they are preferred when they cover equally little. */
const CORNERS: readonly Rect[] = [
  { ...CARD, x: 1 - CARD.w - MARGIN.x, y: 1 - CARD.h - MARGIN.y },
  { ...CARD, x: 1 - CARD.w - MARGIN.x, y: MARGIN.y },
  { ...CARD, x: MARGIN.x, y: 1 - CARD.h - MARGIN.y },
  { ...CARD, x: MARGIN.x, y: MARGIN.y },
]

/**
 * Proposes where the camera picture goes: an upright card in the corner where it covers least of what any step shows.
 * @param steps the content of each step of the slide
 */
export function placeInset(steps: readonly ContentGrid[]): Framing {
  const content = mergeContent(steps)
  const ranked = CORNERS
    .map((rect, order) => ({ rect, cost: coverage(content, rect) + order * 1e-6 }))
    .sort((a, b) => a.cost - b.cost)
  const best = ranked[0]?.rect ?? { ...CARD, x: 1 - CARD.w, y: 1 - CARD.h }
  return { rect: best, outline: 'card', mirrored: false, off: false }
}
