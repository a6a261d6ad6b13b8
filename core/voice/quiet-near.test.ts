import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PEAKS_A_SECOND, quietNear } from '.'

const STEP = 1000 / PEAKS_A_SECOND

describe('a quiet place for a join', () => {
  it('is never louder than the place asked for, nor farther than 200 ms from it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(255), { minLength: 1, maxLength: 80 }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (peaks, share) => {
          const at = share * peaks.length * STEP
          const found = quietNear(peaks, at)
          expect(Math.abs(found - at)).toBeLessThanOrEqual(201)
          expect(peaks[Math.floor(found / STEP)] ?? 0).toBeLessThanOrEqual(peaks[Math.floor(at / STEP)] ?? 0)
        },
      ),
    )
  })

  it('is the gap between two words', () => {
    const peaks = [90, 90, 90, 4, 90, 90, 90]
    expect(quietNear(peaks, 120)).toBe(175)
    expect(quietNear(peaks, 260)).toBe(175)
    expect(quietNear([], 260)).toBe(260)
  })
})
