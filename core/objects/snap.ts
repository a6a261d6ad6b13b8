import type { Rect } from '@core/model'

/** A line that something was laid along: across the slide at a height, or down it. */
export interface SnapLine {
  readonly along: 'across' | 'down'
  /** In fractions of the slide. */
  readonly at: number
}

export interface Snapped {
  /** How far it moves to lie there, in fractions of the slide. */
  readonly x: number
  readonly y: number
  readonly lines: readonly SnapLine[]
}

/** Edges and middles of a rectangle along one side of it. */
const linesOf = (from: number, size: number): readonly number[] => [from, from + size / 2, from + size]

/** The shortest way to bring one of some lines onto one of others; null: none is near enough. */
function nearest(own: readonly number[], others: readonly number[], near: number): { readonly by: number; readonly at: number } | null {
  let best: { by: number; at: number } | null = null
  for (const line of own)
    for (const at of others) {
      const by = at - line
      if (Math.abs(by) <= near && (best === null || Math.abs(by) < Math.abs(best.by))) best = { by, at }
    }
  return best
}

/**
 * Where a rectangle comes to lie that is moved: its edges and middles go to those of the slide, of others and of what is kept free.
 * @param near how far it goes at most, in fractions of the slide's width and height
 */
export function snapped(box: Rect, others: readonly Rect[], near: { readonly x: number; readonly y: number }): Snapped {
  const all = [{ x: 0, y: 0, w: 1, h: 1 }, ...others]
  const across = nearest(
    linesOf(box.x, box.w),
    all.flatMap(({ x, w }) => linesOf(x, w)),
    near.x,
  )
  const down = nearest(
    linesOf(box.y, box.h),
    all.flatMap(({ y, h }) => linesOf(y, h)),
    near.y,
  )
  return {
    x: across?.by ?? 0,
    y: down?.by ?? 0,
    lines: [
      ...(across === null ? [] : [{ along: 'down' as const, at: across.at }]),
      ...(down === null ? [] : [{ along: 'across' as const, at: down.at }]),
    ],
  }
}
