import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LEAST_RATE, MOST_RATE, SPEAKING_RATE, learntRate, tells } from '.'

/** Somebody who says so many words at a rate. */
const said = (words: number, rate: number) => ({ words, spoken: (words / rate) * 60_000 })

describe("a presenter's own rate", () => {
  it('is the usual one while nothing is known', () => {
    expect(learntRate([])).toBe(SPEAKING_RATE)
  })

  it('comes near to what is heard, the nearer the more is heard', () => {
    fc.assert(
      fc.property(fc.integer({ min: 70, max: 240 }), (rate) => {
        const [little, much] = [learntRate([said(50, rate)]), learntRate(Array.from({ length: 40 }, () => said(50, rate)))]
        expect(Math.abs(much - rate)).toBeLessThanOrEqual(Math.max(4, Math.abs(little - rate)))
        expect(Math.abs(much - rate)).toBeLessThan(12)
      }),
    )
  })

  it('lies between what is heard and the usual one, whatever is heard', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ words: fc.nat(500), spoken: fc.nat(600_000) })), (heard) => {
        const rate = learntRate(heard)
        expect(rate).toBeGreaterThanOrEqual(LEAST_RATE)
        expect(rate).toBeLessThanOrEqual(MOST_RATE)
      }),
    )
  })

  it('is not moved by a slide on which something else was said than is written', () => {
    expect(tells(said(40, 20))).toBe(false)
    expect(learntRate([said(40, 20), said(5, 200), { words: 40, spoken: 0 }])).toBe(SPEAKING_RATE)
  })
})
