import { describe, expect, it } from 'vitest'
import { DUCKED, DUCKING_REACH, MUSIC_REACH, PEAKS_A_SECOND, duckingOf, musicDuckingOf } from '.'

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

describe('music under speech', () => {
  it('stays soft in short pauses and opens in those over 1.5 s', () => {
    const soft = musicDuckingOf(outline(12_000, [3000, 4000], [5400, 7000]), -20)
    for (let time = 3000; time < 7000; time += STEP) expect(soft[time / STEP]).toBe(DUCKED)
    const open = musicDuckingOf(outline(12_000, [3000, 4000], [7000, 9000]), -20)
    expect(open[5500 / STEP]).toBeCloseTo(0)
  })

  it('never comes up by more than 4 dB in a fifth of a second: nothing pumps', () => {
    const gains = musicDuckingOf(outline(12_000, [1000, 1500], [2600, 3000], [5200, 5300], [9000, 9400]), -20)
    for (let n = 4; n < gains.length; n += 1) expect((gains[n] ?? 0) - (gains[n - 4] ?? 0)).toBeLessThan(4)
  })

  it('is decided by nothing that is farther away than it says', () => {
    const all = outline(12_000, [3000, 4000], [6000, 6500])
    const at = 5000
    const near = all.map((peak, n) => (Math.abs(n * STEP - at) > MUSIC_REACH + STEP ? 120 : peak))
    expect(musicDuckingOf(near, -20)[at / STEP]).toBe(musicDuckingOf(all, -20)[at / STEP])
  })
})
