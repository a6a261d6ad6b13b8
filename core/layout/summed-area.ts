/**
 * Sums of all values above and left of each corner of a grid, so that any rectangle is asked for at the same small cost (Crow, 1984).
 * There is one corner more than values, across and down.
 */
export interface SummedArea {
  readonly sums: Float64Array
  /** Corners in a row. */
  readonly wide: number
}

/** @param valueAt of a place, counted row by row */
export function summedArea(width: number, height: number, valueAt: (at: number) => number): SummedArea {
  const wide = width + 1
  const sums = new Float64Array(wide * (height + 1))
  for (let y = 1; y <= height; y += 1) {
    let row = 0
    for (let x = 1; x <= width; x += 1) {
      row += valueAt((y - 1) * width + x - 1)
      sums[y * wide + x] = (sums[(y - 1) * wide + x] ?? 0) + row
    }
  }
  return { sums, wide }
}

/** The sum within a rectangle of whole corners. */
export function sumWithin({ sums, wide }: SummedArea, left: number, top: number, right: number, bottom: number): number {
  const at = (x: number, y: number): number => sums[y * wide + x] ?? 0
  return at(right, bottom) - at(left, bottom) - at(right, top) + at(left, top)
}
