import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { InkPoint, Stroke } from '@core/model'
import { INK_REACH, MOST_POINTS, inkPlace, mendedCue, mendedSnapshot, mendedStroke, withPoints } from '.'

const drawn = (points: readonly InkPoint[]): Stroke => ({
  id: asId('k'),
  slide: asId('one'),
  colour: 'brick',
  width: 'fine',
  pressure: false,
  points,
})
const point = (dt: number, x: number, y = 0.5): InkPoint => ({ dt, x, y, p: 0.5 })

describe('ink that is taken in', () => {
  it('never lies farther off the slide than it is kept, and keeps its first and last point however many there are', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ dt: fc.double(), x: fc.double(), y: fc.double(), p: fc.double() }), { minLength: 1, maxLength: 40 }),
        (points) => {
          for (const { dt, x, y, p } of mendedStroke(drawn(points)).points) {
            expect(Number.isInteger(dt) && dt >= 0).toBe(true)
            for (const place of [x, y]) expect(place >= INK_REACH.least && place <= INK_REACH.most).toBe(true)
            expect(p >= 0 && p <= 1).toBe(true)
          }
        },
      ),
    )
    const many = drawn(Array.from({ length: 50_000 }, (_, n) => point(n, n / 50_000)))
    const mended = mendedStroke(many)
    expect(mended.points).toHaveLength(MOST_POINTS)
    expect([mended.points[0]?.dt, mended.points.at(-1)?.dt]).toEqual([0, 49_999])
    expect(inkPlace(1.62)).toBe(INK_REACH.most)
  })

  it('is left alone where there is nothing to mend', () => {
    const stroke = drawn([point(0, 0.2), point(16, 0.3)])
    expect(mendedCue({ kind: 'ink', at: 900, stroke })).toEqual({ kind: 'ink', at: 900, stroke })
    expect(mendedSnapshot({ slide: asId('one'), step: 0, blank: false, inset: true, ink: [stroke] }).ink).toEqual([stroke])
  })

  it('of a mouse that speaks a thousand times a second holds what can be told apart', () => {
    const second = Array.from({ length: 1000 }, (_, n) => point(n, 0.2 + n / 10_000))
    const kept = withPoints([point(0, 0.2)], second)
    expect(kept.length).toBeLessThanOrEqual(251)
    // A fast stroke keeps its corners.
    expect(withPoints([point(0, 0.2)], [point(1, 0.3), point(2, 0.2)])).toHaveLength(3)
    // A clock that goes back does not turn time round.
    expect(withPoints([point(10, 0.2)], [point(4, 0.5)]).at(-1)?.dt).toBe(10)
  })
})
