import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { layBlocks } from './timeline-blocks'
import type { TimelineBlock } from './timeline-blocks'

const slab = (number: number, length: number, state: TimelineBlock['state'] = 'planned'): TimelineBlock => ({
  id: String(number),
  title: `Slide ${String(number)}`,
  number,
  length,
  state,
})
/** Ten seconds to ten pixels. */
const scale = (at: number): number => at / 1000

describe('blocks on the aisle', () => {
  it('stand one after the other as long as they can be hit', () => {
    expect(layBlocks([slab(1, 30_000), slab(2, 50_000, 'recorded')], scale)).toEqual([
      { timelineBlocks: [slab(1, 30_000)], x: 0, width: 30, from: 0, to: 30_000, state: 'planned' },
      { timelineBlocks: [slab(2, 50_000, 'recorded')], x: 30, width: 50, from: 30_000, to: 80_000, state: 'recorded' },
    ])
  })

  it('that are too narrow stand together, and say so when they differ', () => {
    const drawn = layBlocks([slab(1, 5000), slab(2, 5000), slab(3, 40_000, 'recorded'), slab(4, 2000, 'recorded')], scale)
    expect(drawn.map(({ timelineBlocks }) => timelineBlocks.map(({ number }) => number))).toEqual([[1, 2, 3, 4]])
    expect(drawn[0]).toMatchObject({ state: 'mixed', width: 52 })
  })

  it('hold every slide once, in order, without a hole, whatever their lengths', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 100, max: 90_000 }), { maxLength: 60 }), (lengths) => {
        const drawn = layBlocks(
          lengths.map((length, n) => slab(n, length)),
          scale,
        )
        expect(drawn.flatMap(({ timelineBlocks }) => timelineBlocks.map(({ number }) => number))).toEqual(lengths.map((_, n) => n))
        for (const [n, one] of drawn.entries()) {
          expect(one.from).toBe(drawn[n - 1]?.to ?? 0)
          expect(one.width).toBeCloseTo(scale(one.to) - scale(one.from), 6)
        }
      }),
    )
  })
})
