import type { Rect, Size, Slide } from '@core/model'
import { coverage, mergeContent } from './content-grid'
import { contentOfSteps } from './framing-of'

/** Widths of clips that are tried, in fractions of the slide, the best first, and how far apart places are. */
const WIDTHS = [0.62, 0.5, 0.4, 0.32] as const
const STEP = 0.02
/** A clip stays this far from the slide's edges. */
const AIR = 0.03

/** Places of a size on a slide, those nearest to its middle first. */
function placesOf(w: number, h: number): readonly Rect[] {
  const along = (extent: number): readonly number[] => {
    const room = 1 - 2 * AIR - extent
    return room < 0 ? [] : Array.from({ length: Math.floor(room / STEP + 1e-9) + 1 }, (_, n) => AIR + n * STEP)
  }
  const fromMiddle = ({ x, y }: Rect): number => Math.hypot(x + w / 2 - 0.5, y + h / 2 - 0.5)
  return along(h)
    .flatMap((y) => along(w).map((x) => ({ x, y, w, h })))
    .sort((a, b) => fromMiddle(a) - fromMiddle(b))
}

/**
 * Where a clip that is put on a slide goes: the largest place that hides nothing, as near to the middle as there is one; else over its
 * middle.
 * @param picture size of the clip's pictures @param shape of the deck
 */
export function boxForClip(slide: Slide, picture: Size, shape: Size): Rect {
  const content = mergeContent(contentOfSteps(slide, shape))
  /** How high it is for its width, both in fractions of the slide. */
  const height = (shape.width * picture.height) / (picture.width * shape.height)
  for (const widest of WIDTHS) {
    const w = Math.min(widest, widest / height)
    const place = placesOf(w, w * height).find((rect) => coverage(content, rect) === 0)
    if (place !== undefined) return place
  }
  const w = Math.min(0.5, 0.8 / height)
  return { x: (1 - w) / 2, y: (1 - w * height) / 2, w, h: w * height }
}
