import type { Rect, Size } from '@core/model'
import { summedArea } from './summed-area'
import type { SummedArea } from './summed-area'

/** The grid on which a slide's content is kept. */
export const CONTENT_COLUMNS = 32
export const CONTENT_ROWS = 18

/** A hex digit a cell, row by row: how much of the cell is content, in fifteenths. */
export type ContentGrid = string

export const EMPTY_CONTENT: ContentGrid = '0'.repeat(CONTENT_COLUMNS * CONTENT_ROWS)

/** A slide that is full from edge to edge. */
export const FULL_CONTENT: ContentGrid = 'f'.repeat(CONTENT_COLUMNS * CONTENT_ROWS)

/** Codes of the digits 0 and a. */
const [ZERO, TEN] = [48, 97]

/** Value of a cell's digit; 0 outside the grid. */
function valueOf(grid: ContentGrid, cell: number): number {
  const code = cell < grid.length ? grid.charCodeAt(cell) : ZERO
  return code >= TEN ? code - TEN + 10 : code - ZERO
}

/** Content of several steps laid over each other: a place is empty only when it is empty on all. */
export function mergeContent(grids: readonly ContentGrid[]): ContentGrid {
  const first = grids[0] ?? EMPTY_CONTENT
  if (grids.length < 2) return first
  // Digits stand in the order of their values.
  let merged = ''
  for (let cell = 0; cell < first.length; cell += 1) {
    let most = first[cell] ?? '0'
    for (const grid of grids) {
      const digit = grid[cell] ?? '0'
      if (digit > most) most = digit
    }
    merged += most
  }
  return merged
}

/** A grid made ready for asking how much lies under any rectangle. */
export interface SummedGrid extends SummedArea {
  readonly all: number
}

export function summed(grid: ContentGrid): SummedGrid {
  const area = summedArea(CONTENT_COLUMNS, CONTENT_ROWS, (cell) => valueOf(grid, cell))
  return { ...area, all: area.sums.at(-1) ?? 0 }
}

/** The sum above and left of a point between corners: within a cell it grows evenly. */
function sumAt({ sums, wide }: SummedGrid, x: number, y: number): number {
  const column = Math.max(0, Math.min(CONTENT_COLUMNS, x * CONTENT_COLUMNS))
  const row = Math.max(0, Math.min(CONTENT_ROWS, y * CONTENT_ROWS))
  const c = Math.min(CONTENT_COLUMNS - 1, Math.floor(column))
  const r = Math.min(CONTENT_ROWS - 1, Math.floor(row))
  const u = column - c
  const v = row - r
  const at = (rr: number, cc: number): number => sums[rr * wide + cc] ?? 0
  return at(r, c) * (1 - u) * (1 - v) + at(r, c + 1) * u * (1 - v) + at(r + 1, c) * (1 - u) * v + at(r + 1, c + 1) * u * v
}

/** @returns 0 to 1, the share of all content that lies under a rectangle; 0 for an empty slide */
export function coverageOf(grid: SummedGrid, rect: Rect): number {
  if (grid.all === 0) return 0
  const inside =
    sumAt(grid, rect.x + rect.w, rect.y + rect.h) -
    sumAt(grid, rect.x, rect.y + rect.h) -
    sumAt(grid, rect.x + rect.w, rect.y) +
    sumAt(grid, rect.x, rect.y)
  return Math.max(0, Math.min(1, inside / grid.all))
}

/**
 * How much of a slide's content lies under a rectangle.
 * @param rect in fractions of the slide
 * @returns 0 to 1, the share of all content on the slide; 0 for an empty slide
 */
export const coverage = (grid: ContentGrid, rect: Rect): number => coverageOf(summed(grid), rect)

/**
 * Content found on a picture, as it lies on a slide of another shape once the picture is fitted in.
 * @param picture its size in any unit
 */
export function fitContent(grid: ContentGrid, picture: Size, shape: Size): ContentGrid {
  const fit = Math.min(shape.width / picture.width, shape.height / picture.height)
  const w = (picture.width * fit) / shape.width
  const h = (picture.height * fit) / shape.height
  if (w > 0.995 && h > 0.995) return grid
  const left = (1 - w) / 2
  const top = (1 - h) / 2
  const cell = (at: number): string => {
    const x = ((at % CONTENT_COLUMNS) + 0.5) / CONTENT_COLUMNS
    const y = (Math.floor(at / CONTENT_COLUMNS) + 0.5) / CONTENT_ROWS
    const u = (x - left) / w
    const v = (y - top) / h
    if (u < 0 || u >= 1 || v < 0 || v >= 1) return '0'
    return grid[Math.floor(v * CONTENT_ROWS) * CONTENT_COLUMNS + Math.floor(u * CONTENT_COLUMNS)] ?? '0'
  }
  return Array.from({ length: CONTENT_COLUMNS * CONTENT_ROWS }, (_, at) => cell(at)).join('')
}
