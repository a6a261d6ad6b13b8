import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nextTry } from '.'
import type { SizeTry } from '.'

const BOUNDS = { finest: 12, coarsest: 36 }
/** An encoder whose bytes halve every so many steps, more or less: content decides. */
const encoders = fc
  .record({
    bytes: fc.double({ min: 1e5, max: 1e9, noNaN: true }),
    halves: fc.double({ min: 3, max: 14, noNaN: true }),
    wobble: fc.double({ min: 0, max: 0.02, noNaN: true }),
  })
  .map(
    ({ bytes, halves, wobble }) =>
      (crf: number): number =>
        Math.round(bytes * 2 ** (-(crf - 22) / halves) * (1 + wobble * Math.sin(crf * 3))),
  )

/** Tries until the search has an answer. */
function search(encode: (crf: number) => number, most: number, first: number) {
  const tries: SizeTry[] = [{ crf: first, bytes: encode(first) }]
  for (;;) {
    const next = nextTry(tries, { most, ...BOUNDS })
    if (next.kind !== 'try') return { next, tries }
    tries.push({ crf: next.crf, bytes: encode(next.crf) })
    expect(tries.length).toBeLessThanOrEqual(7)
  }
}

describe('looking for a size', () => {
  it('is never over it, uses nine tenths of it where that can be, and tries few times', () => {
    fc.assert(
      fc.property(encoders, fc.double({ min: 0.02, max: 20, noNaN: true }), fc.integer({ min: 18, max: 27 }), (encode, share, first) => {
        const most = Math.round(encode(22) * share)
        const { next, tries } = search(encode, most, first)
        if (next.kind === 'impossible') {
          expect(encode(BOUNDS.coarsest)).toBeGreaterThan(most)
          expect(next.least).toBeGreaterThan(most)
          return
        }
        const taken = tries.find(({ crf }) => crf === next.crf)
        expect(taken?.bytes).toBeLessThanOrEqual(most)
        if (encode(BOUNDS.finest) * 0.97 > most) expect(taken?.bytes).toBeGreaterThanOrEqual(most * 0.9)
        expect(tries.length).toBeLessThanOrEqual(6)
      }),
      { numRuns: 500 },
    )
  })

  it('goes on where two tries beside each other come to about the same', () => {
    const flat = (crf: number): number => 930_341 * 2 ** (-(crf - 22) / 13.95) * (1 + 0.0199 * Math.sin(crf * 3))
    expect(search(flat, 698_701, 27).next.kind).toBe('take')
  })

  it('takes the first that fits and makes use of the size', () => {
    expect(nextTry([{ crf: 22, bytes: 95 }], { most: 100, ...BOUNDS })).toEqual({ kind: 'take', crf: 22 })
  })

  it('is done with the finest when even that leaves room', () => {
    expect(nextTry([{ crf: 12, bytes: 20 }], { most: 100, ...BOUNDS })).toEqual({ kind: 'take', crf: 12 })
  })

  it('says how much the coarsest takes when that is too much', () => {
    expect(
      nextTry(
        [
          { crf: 22, bytes: 900 },
          { crf: 36, bytes: 300 },
        ],
        { most: 100, ...BOUNDS },
      ),
    ).toEqual({ kind: 'impossible', least: 300 })
  })
})
