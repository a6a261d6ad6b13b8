import type { Ms } from '@core/model'

/** From one time (inclusive) to another (exclusive), in ms. */
export interface TimeRange {
  readonly from: Ms
  readonly to: Ms
}

/** Whether two ranges have something in common. */
export const rangesOverlap = (a: TimeRange, b: TimeRange): boolean => a.from < b.to && b.from < a.to

/** Ranges in order and apart from each other: those that overlap or touch become one. @param near as near as this they touch, in ms */
export function rangesUnited(ranges: readonly TimeRange[], near: Ms = 0): readonly TimeRange[] {
  const out: { from: Ms; to: Ms }[] = []
  for (const range of [...ranges].sort((a, b) => a.from - b.from)) {
    const last = out.at(-1)
    if (last !== undefined && range.from - last.to <= near) last.to = Math.max(last.to, range.to)
    else out.push({ from: range.from, to: range.to })
  }
  return out
}
