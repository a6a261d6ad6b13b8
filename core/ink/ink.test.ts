import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Stroke } from '@core/model'
import { stroke } from '@core/testing'
import { strokeBounds, strokeBreadth, strokeOutline, touchesStroke } from '.'

const WIDE = { width: 16, height: 9 }
const line: Stroke = {
  ...stroke('k', asId('one')),
  points: [
    { dt: 0, x: 0.2, y: 0.5, p: 0.5 },
    { dt: 300, x: 0.8, y: 0.5, p: 0.5 },
  ],
}

describe('an eraser', () => {
  it('touches a stroke anywhere on its way, and not beside it', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.2, max: 0.8, noNaN: true }), fc.double({ min: 0.05, max: 0.4, noNaN: true }), (x, away) => {
        expect(touchesStroke(line, { x, y: 0.5 }, 0.01, WIDE)).toBe(true)
        expect(touchesStroke(line, { x, y: 0.5 + away }, 0.01, WIDE)).toBe(false)
      }),
    )
    expect(touchesStroke(line, { x: 0.83, y: 0.5 }, 0.01, WIDE)).toBe(false)
  })

  it('reaches further round a broad marker', () => {
    const marker: Stroke = { ...line, tool: 'marker', width: 'broad' }
    expect(strokeBreadth(marker)).toBeGreaterThan(3 * strokeBreadth({ ...line, width: 'broad' }))
    expect([touchesStroke(line, { x: 0.5, y: 0.52 }, 0.005, WIDE), touchesStroke(marker, { x: 0.5, y: 0.52 }, 0.005, WIDE)]).toEqual([
      false,
      true,
    ])
  })

  it('touches a dot', () => {
    expect(touchesStroke({ ...line, points: line.points.slice(0, 1) }, { x: 0.2, y: 0.5 }, 0.01, WIDE)).toBe(true)
  })
})

describe('a stroke', () => {
  it('grows with its time, within the bounds it has when whole', () => {
    const size = { width: 1600, height: 900 }
    const bounds = strokeBounds(line, WIDE)
    const right = (elapsed: number | null) => Math.max(-Infinity, ...strokeOutline(line, elapsed, size).map(([x]) => x))
    expect(strokeOutline(line, -1, size)).toEqual([])
    expect(right(0)).toBeLessThan(right(null))
    expect(right(null)).toBeLessThanOrEqual(bounds.right * size.width)
  })
})
