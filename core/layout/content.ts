import type { Rect } from '@core/model'

/** The grid on which a slide's content is kept. */
export const CONTENT_COLUMNS = 32
export const CONTENT_ROWS = 18

/** A hex digit a cell, row by row: how much of the cell is content, in fifteenths. */
export type ContentGrid = string

export const EMPTY_CONTENT: ContentGrid = '0'.repeat(CONTENT_COLUMNS * CONTENT_ROWS)

/** How unlike two neighbouring pixels must be, as a sum over red, green and blue, to count as an edge. */
const EDGE = 40

/**
 * Finds where a drawn page has content: the share of each cell's pixels that differ from their right or lower
 * neighbour. Flat grounds and slow gradients count as empty, text, lines and photographs do not.
 * @param rgba four bytes a pixel, row by row
 * @param width pixels in a row, at least CONTENT_COLUMNS
 * @param height rows, at least CONTENT_ROWS
 */
export function contentOf(rgba: Uint8Array | Uint8ClampedArray, width: number, height: number): ContentGrid {
  const edges = new Float64Array(CONTENT_COLUMNS * CONTENT_ROWS)
  const pixels = new Float64Array(CONTENT_COLUMNS * CONTENT_ROWS)
  const unlike = (a: number, b: number): boolean =>
    Math.abs((rgba[a] ?? 0) - (rgba[b] ?? 0))
    + Math.abs((rgba[a + 1] ?? 0) - (rgba[b + 1] ?? 0))
    + Math.abs((rgba[a + 2] ?? 0) - (rgba[b + 2] ?? 0)) > EDGE
  for (let y = 0; y < height - 1; y += 1) {
    const row = Math.floor((y * CONTENT_ROWS) / height) * CONTENT_COLUMNS
    for (let x = 0; x < width - 1; x += 1) {
      const cell = row + Math.floor((x * CONTENT_COLUMNS) / width)
      const here = (y * width + x) * 4
      pixels[cell] = (pixels[cell] ?? 0) + 1
      if (unlike(here, here + 4) || unlike(here, here + width * 4)) edges[cell] = (edges[cell] ?? 0) + 1
    }
  }
  // A third of a cell's pixels being edges is as dense as text gets.
  const digit = (cell: number): string => {
    const share = (edges[cell] ?? 0) / Math.max(1, pixels[cell] ?? 0)
    return Math.min(15, Math.ceil(share * 45)).toString(16)
  }
  return Array.from({ length: edges.length }, (_, cell) => digit(cell)).join('')
}

/** Content of several steps laid over each other: a place is empty only when it is empty on all. */
export function mergeContent(grids: readonly ContentGrid[]): ContentGrid {
  const first = grids[0] ?? EMPTY_CONTENT
  if (grids.length < 2) return first
  return Array.from(first, (_, cell) =>
    Math.max(...grids.map((grid) => Number.parseInt(grid[cell] ?? '0', 16))).toString(16)).join('')
}

/**
 * How much of a slide's content lies under a rectangle.
 * @param rect in fractions of the slide
 * @returns 0 to 1, the share of all content on the slide; 0 for an empty slide
 */
export function coverage(grid: ContentGrid, rect: Rect): number {
  let all = 0
  let covered = 0
  for (let row = 0; row < CONTENT_ROWS; row += 1) {
    const tall = overlap(row / CONTENT_ROWS, (row + 1) / CONTENT_ROWS, rect.y, rect.y + rect.h) * CONTENT_ROWS
    for (let column = 0; column < CONTENT_COLUMNS; column += 1) {
      const weight = Number.parseInt(grid[row * CONTENT_COLUMNS + column] ?? '0', 16)
      if (weight === 0) continue
      all += weight
      if (tall > 0) {
        covered += weight * tall
          * overlap(column / CONTENT_COLUMNS, (column + 1) / CONTENT_COLUMNS, rect.x, rect.x + rect.w) * CONTENT_COLUMNS
      }
    }
  }
  return all === 0 ? 0 : covered / all
}

const overlap = (from: number, to: number, otherFrom: number, otherTo: number): number =>
  Math.max(0, Math.min(to, otherTo) - Math.max(from, otherFrom))
