import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { shareOut } from '.'
import type { Share } from '.'

const anyShares: fc.Arbitrary<readonly Share<number>[]> = fc
  .array(fc.tuple(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 120 })), { minLength: 1, maxLength: 40 })
  .map((pairs) => pairs.map(([planned, least], id) => ({ id, planned: planned * 1000, least: least * 1000 })))
const after = (shares: readonly Share<number>[], wanted: number) => {
  const out = shareOut(shares, wanted)
  return { out, times: shares.map((share) => out.times.get(share.id) ?? share.planned) }
}
const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0)

describe('sharing out time', () => {
  it('comes to the wanted sum exactly, or says by how much even the least of all is too much', () => {
    fc.assert(
      fc.property(anyShares, fc.integer({ min: 1, max: 12_000 }), (shares, seconds) => {
        const { out, times } = after(shares, seconds * 1000)
        expect(sum(times)).toBe(seconds * 1000 + out.short)
        expect(out.short).toBeGreaterThanOrEqual(0)
      }),
    )
  })

  it('makes nothing shorter than its least, or than it was when it was shorter already', () => {
    fc.assert(
      fc.property(anyShares, fc.integer({ min: 1, max: 12_000 }), (shares, seconds) => {
        const { times } = after(shares, seconds * 1000)
        for (const [n, share] of shares.entries()) expect(times[n]).toBeGreaterThanOrEqual(Math.min(share.least, share.planned))
      }),
    )
  })

  it('keeps the order of longer and shorter slides where their least allows it', () => {
    fc.assert(
      fc.property(anyShares, fc.integer({ min: 1, max: 12_000 }), (shares, seconds) => {
        const { times } = after(shares, seconds * 1000)
        for (const [a, one] of shares.entries()) {
          for (const [b, other] of shares.entries()) {
            // Of two that were alike one may get the second that is left over.
            if (one.planned > other.planned && one.least >= other.least) expect(times[a]).toBeGreaterThanOrEqual(times[b] ?? 0)
          }
        }
      }),
    )
  })

  it('is in proportion, and names those that it could not touch', () => {
    const shares = [
      { id: 'a', planned: 60_000, least: 3000 },
      { id: 'b', planned: 30_000, least: 3000 },
      { id: 'c', planned: 10_000, least: 10_000 },
    ]
    const out = shareOut(shares, 55_000)
    expect([...out.times]).toEqual([
      ['a', 30_000],
      ['b', 15_000],
    ])
    expect(out.untouched).toEqual(['c'])
    expect([...shareOut(shares, 200_000).times]).toEqual([
      ['a', 120_000],
      ['b', 60_000],
      ['c', 20_000],
    ])
  })

  it('never goes over a limit that is not whole seconds', () => {
    expect(sum([...shareOut([{ id: 1, planned: 9000, least: 1000 }], 7700).times.values()])).toBe(7000)
  })
})
