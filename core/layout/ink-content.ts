import type { Stroke } from '@core/model'
import { CONTENT_COLUMNS, CONTENT_ROWS, EMPTY_CONTENT } from './content-grid'
import type { ContentGrid } from './content-grid'

/** Cells that a stroke touches are as full of content as cells of print are. */
const WEIGHT = 'f'
/** A stroke's points are filled in so that none of its cells is jumped over, in fractions of the slide. */
const STEP = 0.5 / CONTENT_COLUMNS

/** Where ink lies on a slide, on the grid on which the slide's own content is kept. Labels count where they begin. */
export function contentOfInk(strokes: readonly Stroke[]): ContentGrid {
  if (strokes.length === 0) return EMPTY_CONTENT
  const cells = new Array<string>(CONTENT_COLUMNS * CONTENT_ROWS).fill('0')
  const mark = (x: number, y: number): void => {
    const [column, row] = [Math.floor(x * CONTENT_COLUMNS), Math.floor(y * CONTENT_ROWS)]
    if (column >= 0 && column < CONTENT_COLUMNS && row >= 0 && row < CONTENT_ROWS) cells[row * CONTENT_COLUMNS + column] = WEIGHT
  }
  for (const { points } of strokes) {
    for (const [n, point] of points.entries()) {
      const before = points[n - 1] ?? point
      const steps = Math.max(1, Math.ceil(Math.hypot(point.x - before.x, point.y - before.y) / STEP))
      for (let step = 1; step <= steps; step += 1) {
        mark(before.x + ((point.x - before.x) * step) / steps, before.y + ((point.y - before.y) * step) / steps)
      }
    }
  }
  return cells.join('')
}
