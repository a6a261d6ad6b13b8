import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { indexFilm } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { PEAKS_A_SECOND } from '@core/voice'
import { endWithin } from '.'

const one = slide('one')
/** Twenty seconds of speech with pauses, in seconds. */
const spoken = (pauses: readonly (readonly [number, number])[]): number[] =>
  Array.from({ length: 20 * PEAKS_A_SECOND }, (_, n) => {
    const at = n / PEAKS_A_SECOND
    return pauses.some(([from, to]) => at >= from && at < to) ? 0 : 90 + (n % 3) * 20
  })
const index = indexFilm(film([one], [stretch('s', 20_000, one.id)]))
const end = (from: number, limit: number, pauses: readonly (readonly [number, number])[]): number =>
  endWithin(index, from, limit, { s: spoken(pauses) })

describe('a part that is to keep to a limit', () => {
  it('ends in the last pause before its time is up, of which a moment is kept', () => {
    expect(
      end(2000, 10_000, [
        [5, 5.6],
        [11, 11.8],
        [14, 15],
      ]),
    ).toBe(11_400)
    // In the middle of a pause its time is up.
    expect(end(2000, 9200, [[11, 11.8]])).toBe(11_200)
    expect(end(2000, 9700, [[11, 11.35]])).toBe(11_350)
  })

  it('ends when its time is up where nobody pauses for long before, or the talk ends', () => {
    expect(end(2000, 10_000, [[5, 5.6]])).toBe(12_000)
    expect(end(2000, 10_000, [])).toBe(12_000)
    expect(end(15_000, 10_000, [])).toBe(20_000)
  })

  it('is never over its limit, nor much shorter', () => {
    const pause = fc
      .tuple(fc.integer({ min: 0, max: 18 }), fc.integer({ min: 1, max: 30 }))
      .map(([from, tenths]) => [from, from + tenths / 10] as const)
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 15_000 }),
        fc.integer({ min: 1000, max: 5000 }),
        fc.array(pause, { maxLength: 5 }),
        (from, limit, pauses) => {
          const found = end(from, limit, pauses)
          expect(found - from).toBeLessThanOrEqual(limit)
          expect(found - from).toBeGreaterThanOrEqual(limit * 0.8)
        },
      ),
    )
  })
})
