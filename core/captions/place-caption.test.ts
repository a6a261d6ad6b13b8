import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CONTENT_COLUMNS, CONTENT_ROWS, WHOLE, coverage, summed } from '@core/layout'
import type { ContentGrid } from '@core/layout'
import { CAPTION_SIZES } from '@core/model'
import type { Rect } from '@core/model'
import { extentOf, placeCaption, setCaption } from '.'
import type { CaptionPlace, Extent, Hidden } from '.'

const WIDE = { width: 16, height: 9 }
const LINES = [['The tide turns twice a day, and the harbour', 'is dry for an hour at the lowest of them.']]
const EXTENT = extentOf(LINES, { size: 'usual' }, WIDE)

/** A slide with content in the rows that are named. */
const rows = (...filled: readonly number[]): ContentGrid =>
  Array.from({ length: CONTENT_ROWS }, (_, row) => (filled.includes(row) ? 'f' : '0').repeat(CONTENT_COLUMNS)).join('')
const over = (grid: ContentGrid, face: Rect | null = null): Hidden => ({ content: summed(grid), stage: WHOLE, face })
const boxOf = ({ middle, foot }: CaptionPlace, { w, h }: Extent): Rect => ({ x: middle - w / 2, y: foot - h, w, h })
const apart = (a: Rect, b: Rect): boolean => a.x + a.w <= b.x || b.x + b.w <= a.x || a.y + a.h <= b.y || b.y + b.h <= a.y
const CORNER: Rect = { x: 0.83, y: 0.62, w: 0.15, h: 0.35 }

describe('a caption', () => {
  it('is set in letters with which a full line fits into frames of any shape', () => {
    for (const shape of [WIDE, { width: 4, height: 3 }, { width: 9, height: 16 }, { width: 1, height: 1 }]) {
      for (const size of CAPTION_SIZES) {
        const { widths } = setCaption(['W'.repeat(42), 'is dry for an hour at the lowest of them.'], { size }, shape)
        expect(Math.max(...widths)).toBeLessThanOrEqual(shape.width * 0.941)
      }
    }
    const [small, usual, large] = CAPTION_SIZES.map((size) => setCaption(['calm'], { size }, WIDE).letters)
    expect([small, usual, large]).toEqual([small, usual, large].toSorted((a, b) => (a ?? 0) - (b ?? 0)))
  })

  it('stands at the foot where that is free, at the head where only that is, and else in a strip outside the picture', () => {
    expect(placeCaption('free', EXTENT, over(rows(0, 1, 5)))).toMatchObject({ middle: 0.5, picture: WHOLE })
    expect(placeCaption('free', EXTENT, over(rows(0, 1, 5))).foot).toBeGreaterThan(0.9)
    expect(placeCaption('free', EXTENT, over(rows(10, 16))).foot).toBeLessThan(0.3)
    const strip = placeCaption('free', EXTENT, over(rows(1, 16)))
    expect(strip.picture.h).toBeLessThan(0.9)
    expect(strip.foot - EXTENT.h).toBeGreaterThanOrEqual(strip.picture.h)
    // The picture keeps its shape.
    expect(strip.picture.w).toBeCloseTo(strip.picture.h)
  })

  it('stays at the edge at which it stood on the slide before, where it can', () => {
    const head = placeCaption('free', EXTENT, over(rows(16)))
    expect(placeCaption('free', EXTENT, over(rows(9)), head).foot).toBe(head.foot)
    expect(placeCaption('free', EXTENT, over(rows(1)), head).foot).toBeGreaterThan(0.9)
  })

  it('goes beside the face at the edge that was asked for, and into the strip where the face fills the frame', () => {
    const wide = { ...EXTENT, w: 0.74 }
    const beside = placeCaption('foot', wide, over(rows(16), CORNER))
    expect(apart(boxOf(beside, wide), CORNER)).toBe(true)
    expect(beside.foot).toBeGreaterThan(0.9)
    expect(placeCaption('foot', EXTENT, over(rows(), WHOLE)).picture).not.toEqual(WHOLE)
    expect(placeCaption('strip', EXTENT, over(rows())).picture).not.toEqual(WHOLE)
  })

  it('hides neither face nor words, whatever is on a slide, and stays in the frame', () => {
    const digit = fc.constantFrom('0', '0', '0', '0', '0', '0', '0', 'f')
    const grid = fc
      .array(digit, { minLength: CONTENT_ROWS, maxLength: CONTENT_ROWS })
      .map((row) => row.map((one) => one.repeat(CONTENT_COLUMNS)).join(''))
    const share = fc.double({ min: 0.05, max: 0.4, noNaN: true })
    const face = fc.option(
      fc
        .tuple(share, share, fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }))
        .map(([w, h, x, y]) => ({
          x: x * (1 - w),
          y: y * (1 - h),
          w,
          h,
        })),
    )
    fc.assert(
      fc.property(grid, face, fc.constantFrom(...CAPTION_SIZES), (content, there, size) => {
        const extent = extentOf(LINES, { size }, WIDE)
        const place = placeCaption('free', extent, over(content, there))
        const box = boxOf(place, extent)
        expect(box.x >= 0 && box.y >= 0 && box.x + box.w <= 1 && box.y + box.h <= 1).toBe(true)
        if (place.picture.h < 1) {
          expect(box.y).toBeGreaterThanOrEqual(place.picture.h)
          return
        }
        expect(coverage(content, box)).toBeLessThanOrEqual(0.002)
        expect(there === null || apart(box, there)).toBe(true)
      }),
    )
  })
})
