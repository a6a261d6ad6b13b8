import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { timeLeft } from '.'

const START = { elapsed: 0, spent: 0, found: 0, all: 100, time: 20_000, after: 2000 }

describe('the time left', () => {
  it('is what was reckoned at first, and what comes after the pictures once they are done', () => {
    expect(timeLeft(START)).toBe(20_000)
    expect(timeLeft({ ...START, elapsed: 25_000, spent: 100 })).toBe(2000)
  })

  it('is right all along when all goes as fast as was reckoned, whatever was found made', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100 }), (spent) => {
        expect(timeLeft({ ...START, elapsed: 180 * spent, spent })).toBeCloseTo(18_000 - 180 * spent + 2000, -1)
      }),
    )
  })

  it('comes nearer and nearer to what is seen when the machine is slower than was reckoned', () => {
    const off = [10, 40, 80].map((spent) => Math.abs(timeLeft({ ...START, elapsed: 540 * spent, spent }) - (54_000 - 540 * spent + 2000)))
    expect(off[0]).toBeGreaterThan(off[1] ?? 0)
    expect(off[1]).toBeGreaterThan(off[2] ?? 0)
    expect(off[2]).toBeLessThan(5000)
  })

  it('is never less than nothing', () => {
    fc.assert(
      fc.property(fc.nat(1e6), fc.nat(200), fc.nat(200), fc.nat(1e5), fc.nat(1e5), (elapsed, spent, all, time, after) => {
        expect(timeLeft({ elapsed, spent, found: 0, all, time, after })).toBeGreaterThanOrEqual(0)
      }),
    )
  })
})
