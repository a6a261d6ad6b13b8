import type { Rect, Size } from '@core/model'
import { insetMargin } from './inset-place'

/** Sizes that are tried, as shares of the usual one, and how many places of each, across and down. */
export const SCALES = [1, 0.85, 0.72, 0.6]
export const COLUMNS = 29
export const ROWS = 17
/** Room that is kept round the face, in fractions of the slide. */
export const AIR = 0.02

/** Where one of the places lies for a face of some size: the outermost ones keep the usual margin. */
export function placeRect(column: number, row: number, { w, h }: Pick<Rect, 'w' | 'h'>, shape: Size): Rect {
  const margin = insetMargin(shape)
  return {
    x: margin.x + (column / (COLUMNS - 1)) * (1 - 2 * margin.x - w),
    y: margin.y + (row / (ROWS - 1)) * (1 - 2 * margin.y - h),
    w,
    h,
  }
}

/** How willingly a place is taken: corners before edges before the middle, the lower right corner before all. */
export function reluctance(column: number, row: number): number {
  const x = column / (COLUMNS - 1)
  const y = row / (ROWS - 1)
  const toSide = Math.min(x, 1 - x)
  const toEdge = Math.min(y, 1 - y)
  return Math.min(toSide, toEdge) * 4 + (toSide + toEdge) * 1.5 + (x < 0.5 ? 0.06 : 0) + (y < 0.5 ? 0.03 : 0)
}
