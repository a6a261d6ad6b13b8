import { describe, expect, it } from 'vitest'
import { CONTENT_COLUMNS, CONTENT_ROWS, EMPTY_CONTENT, contentOf, coverage, mergeContent, placeInset } from '.'

const WIDTH = 320
const HEIGHT = 180
const WIDE = { width: 16, height: 9 }

/** A page with stripes where `filled` says, on a slow gradient. */
function page(filled: (x: number, y: number) => boolean): Uint8Array {
  const rgba = new Uint8Array(WIDTH * HEIGHT * 4)
  for (let y = 0; y < HEIGHT; y += 1) {
    for (let x = 0; x < WIDTH; x += 1) {
      const value = filled(x / WIDTH, y / HEIGHT) && x % 4 < 2 ? 20 : 180 + Math.floor(y / 4)
      rgba.set([value, value, value, 255], (y * WIDTH + x) * 4)
    }
  }
  return rgba
}

describe('content', () => {
  it('is found where there is text, and not on a gradient', () => {
    const grid = contentOf(
      page((x, y) => x < 0.5 && y < 0.5),
      WIDTH,
      HEIGHT,
    )
    const at = (column: number, row: number): string => grid[row * CONTENT_COLUMNS + column] ?? ''
    expect([at(2, 2), at(14, 7)].every((cell) => cell === 'f')).toBe(true)
    expect([at(20, 2), at(2, 14), at(30, 17)]).toEqual(['0', '0', '0'])
  })

  it('covered by a rectangle is its share of all content', () => {
    const grid = contentOf(
      page((x) => x < 0.5),
      WIDTH,
      HEIGHT,
    )
    expect(coverage(grid, { x: 0, y: 0, w: 1, h: 1 })).toBeCloseTo(1)
    expect(coverage(grid, { x: 0, y: 0, w: 0.5, h: 0.5 })).toBeCloseTo(0.5, 1)
    expect(coverage(grid, { x: 0.6, y: 0, w: 0.4, h: 1 })).toBe(0)
    expect(coverage(EMPTY_CONTENT, { x: 0, y: 0, w: 1, h: 1 })).toBe(0)
  })
})

describe('the place of the face', () => {
  it('is the preferred corner of an empty slide', () => {
    const { x, y } = placeInset([EMPTY_CONTENT], WIDE).rect
    expect([x > 0.5, y > 0.5]).toEqual([true, true])
  })

  it('is empty on every step, not on the first alone', () => {
    const lower = contentOf(
      page((_, y) => y > 0.5),
      WIDTH,
      HEIGHT,
    )
    const right = contentOf(
      page((x, y) => x > 0.5 && y < 0.5),
      WIDTH,
      HEIGHT,
    )
    const { rect } = placeInset([lower, right], WIDE)
    expect(coverage(mergeContent([lower, right]), rect)).toBe(0)
    expect([rect.x < 0.5, rect.y < 0.5]).toEqual([true, true])
    expect(mergeContent([lower, right]).length).toBe(CONTENT_COLUMNS * CONTENT_ROWS)
  })
})
