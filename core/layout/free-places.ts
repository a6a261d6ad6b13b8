import { fittedInto } from '@core/model'
import type { Outline, Rect, Size } from '@core/model'
import { AIR, COLUMNS, ROWS, SCALES, placeRect, reluctance } from './inset-places'
import { USUAL_SIZE, insetExtent } from './inset-place'
import { hasGround } from './ground'
import type { GroundModel } from './ground'
import { summedArea, sumWithin } from './summed-area'

/** A place that the face may have on a slide. */
export interface InsetPlace {
  readonly rect: Rect
  /** What lying there costs by itself: places that are liked less, and smaller faces, cost more. */
  readonly cost: number
}

/** What making the face smaller costs: one step of it more than any place of the size before. */
const SMALLER = 24

const known = new Map<string, readonly InsetPlace[]>()

/** All places that the face may have on slides of a shape, the same ones in the same order for each. */
export function insetPlaces({ width, height }: Size, outline: Outline = 'card'): readonly InsetPlace[] {
  const key = `${String(width)} ${String(height)} ${outline}`
  const places = known.get(key) ?? placesOf({ width, height }, outline)
  // Decks have few shapes; whoever tries many makes them anew.
  if (known.size < 20) known.set(key, places)
  return places
}

function placesOf(shape: Size, outline: Outline): readonly InsetPlace[] {
  return SCALES.flatMap((scale) => {
    const extent = insetExtent(outline, USUAL_SIZE * scale, shape)
    return Array.from({ length: ROWS * COLUMNS }, (_, n) => {
      const [column, row] = [n % COLUMNS, Math.floor(n / COLUMNS)]
      return { rect: placeRect(column, row, extent, shape), cost: reluctance(column, row) + (1 - scale) * SMALLER }
    })
  })
}

/** What of a small picture of a page is taken up. */
export interface TakenMask {
  readonly width: number
  readonly height: number
  /** For each pixel, row by row: 1 where something is. */
  readonly taken: Uint8Array
}

/**
 * What of a page is taken up: what differs from its ground, and where its words stand.
 * @param words boxes of its words, in fractions of the page: small type is hardly seen in a small picture
 * @returns null for a page that is a photograph, which has no ground
 */
export function takenOf(ground: GroundModel, width: number, height: number, words: readonly Rect[]): TakenMask | null {
  if (!hasGround(ground)) return null
  const taken = ground.isGround.map((is) => 1 - is)
  for (const { x, y, w, h } of words) {
    const [left, right] = [Math.max(0, Math.floor(x * width)), Math.min(width, Math.ceil((x + w) * width))]
    const [top, bottom] = [Math.max(0, Math.floor(y * height)), Math.min(height, Math.ceil((y + h) * height))]
    for (let row = top; row < bottom; row += 1) taken.fill(1, row * width + left, row * width + right)
  }
  return { width, height, taken }
}

/**
 * Which places are free on a page, with some air round them.
 * @param picture the page's size
 * @param shape of the slide that it is fitted into
 * @returns a `1` for each place that is free, a `0` for each other
 */
export function freePlaces(mask: TakenMask, places: readonly InsetPlace[], picture: Size, shape: Size): string {
  const { width, height, taken } = mask
  const area = summedArea(width, height, (at) => taken[at] ?? 0)
  const fit = fittedInto(picture, shape)
  const within = (value: number, most: number): number => Math.max(0, Math.min(most, value))
  let free = ''
  for (const { rect } of places) {
    const left = within(Math.floor(((rect.x - AIR - fit.x) / fit.w) * width), width)
    const right = within(Math.ceil(((rect.x + rect.w + AIR - fit.x) / fit.w) * width), width)
    const top = within(Math.floor(((rect.y - AIR - fit.y) / fit.h) * height), height)
    const bottom = within(Math.ceil(((rect.y + rect.h + AIR - fit.y) / fit.h) * height), height)
    free += sumWithin(area, left, top, right, bottom) === 0 ? '1' : '0'
  }
  return free
}

/** Places that are free on all pages of a slide; null where that is not known of one. */
export function freeOnAll(pages: readonly (string | undefined)[]): string | null {
  const known = pages.filter((page) => page !== undefined)
  const [first] = known
  if (first === undefined || known.length < pages.length) return null
  return known.length === 1 ? first : Array.from(first, (_, n) => (known.every((one) => one[n] === '1') ? '1' : '0')).join('')
}
