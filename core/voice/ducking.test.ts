import { describe, expect, it } from 'vitest'
import { DUCKED, DUCKING_REACH, PEAKS_A_SECOND, duckingOf } from '.'

const STEP = 1000 / PEAKS_A_SECOND
/** A voice that speaks between some times, in ms. */
const outline = (length: number, ...spoken: readonly (readonly [number, number])[]): readonly number[] =>
  Array.from({ length: length / STEP }, (_, n) => (spoken.some(([from, to]) => n * STEP >= from && n * STEP < to) ? 120 : 2))

describe('what is played under a voice', () => {
  const gains = duckingOf(outline(10_000, [3000, 4000], [4500, 5000]), -20)
  const at = (time: number): number => gains[time / STEP] ?? NaN

  it('is soft while somebody speaks and between two words, and as loud as it is elsewhere', () => {
    for (let time = 3000; time < 5000; time += STEP) expect(at(time)).toBe(DUCKED)
    expect([0, 2000, 2700, 5900, 9000].map((time) => at(time) + 0)).toEqual([0, 0, 0, 0, 0])
  })

  it('goes there and back by small steps', () => {
    for (let n = 1; n < gains.length; n += 1) expect(Math.abs((gains[n] ?? 0) - (gains[n - 1] ?? 0))).toBeLessThanOrEqual(2.01)
  })

  it('is decided by what is near, whatever is farther away', () => {
    const part = duckingOf(outline(10_000, [3000, 4000], [4500, 5000]).slice(80, 140), -20)
    const reach = DUCKING_REACH / STEP
    for (let n = reach; n < 60 - reach; n += 1) expect(part[n]).toBe(gains[80 + n])
  })
})
