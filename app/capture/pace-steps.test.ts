import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { firstPace, paceAfter, pacedRate } from './pace-steps'
import type { PaceRules, PaceState } from './pace-steps'

const RULES: PaceRules = { behind: 400, rates: [8, 4, 2], usual: 15, byPictures: true, recovers: 4000 }
const CHUNK = 250

/** A recording that is so far behind at each piece, one piece every 250 ms. */
function after(lags: readonly number[], rules = RULES, from: PaceState = firstPace(rules), at = 0): PaceState {
  return lags.reduce((state, lag, n) => paceAfter(rules, state, lag, at + n * CHUNK), from)
}
const forSeconds = (seconds: number, lag: number): readonly number[] => Array.from({ length: seconds * 4 }, () => lag)

describe('pictures of a recording', () => {
  it('are all asked for while it keeps up', () => {
    expect(pacedRate(RULES, after(forSeconds(60, 300)))).toBe(15)
  })

  it('are given up a step at a time while it is behind, and never below the last', () => {
    expect(pacedRate(RULES, after([900]))).toBe(8)
    expect(pacedRate(RULES, after(forSeconds(1, 900)))).toBe(8)
    expect(pacedRate(RULES, after(forSeconds(2, 900)))).toBe(4)
    expect(pacedRate(RULES, after(forSeconds(60, 900)))).toBe(2)
  })

  it('come back one step at a time once it has kept up for long enough', () => {
    expect(pacedRate(RULES, after([900, ...forSeconds(3, 100)]))).toBe(8)
    expect(pacedRate(RULES, after([900, ...forSeconds(6, 100)]))).toBe(15)
    expect(pacedRate({ ...RULES, recovers: null }, after([900, ...forSeconds(600, 100)], { ...RULES, recovers: null }))).toBe(8)
  })

  it('are waited for twice as long where they came back too early', () => {
    const lags = [900, ...forSeconds(6.5, 100), 900]
    const state = after(lags)
    expect(pacedRate(RULES, state)).toBe(8)
    const later = lags.length * CHUNK
    expect(pacedRate(RULES, after(forSeconds(5, 100), RULES, state, later))).toBe(8)
    expect(pacedRate(RULES, after(forSeconds(10, 100), RULES, state, later))).toBe(15)
  })

  it('are always one of the rates, whatever happens', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 3000 }), { maxLength: 400 }), (lags) => {
        expect([15, 8, 4, 2]).toContain(pacedRate(RULES, after(lags)))
      }),
    )
  })
})
