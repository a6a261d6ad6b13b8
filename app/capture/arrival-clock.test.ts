import { describe, expect, it } from 'vitest'
import { ArrivalClock } from './arrival-clock'

/** A block of 480 samples at 48,000 a second. */
const BLOCK = { frames: 480, rate: 48_000, ms: 10 }

describe('a clock by when blocks arrive', () => {
  it('goes by those that came soonest, however late the others are', () => {
    const clock = new ArrivalClock()
    let worst = 0
    for (let n = 0; n < 1000; n += 1) {
      const late = n % 3 === 0 ? 0.2 : (n * 7) % 40
      const { at, lost } = clock.take(500 + (n + 1) * BLOCK.ms + late, n * BLOCK.frames, BLOCK.frames, BLOCK.rate)
      expect(lost).toBe(false)
      worst = Math.max(worst, Math.abs(at - 500 - n * BLOCK.ms))
    }
    expect(worst).toBeLessThan(0.5)
  })

  it('knows of blocks that were lost', () => {
    const clock = new ArrivalClock()
    clock.take(10, 0, BLOCK.frames, BLOCK.rate)
    expect(clock.take(40, 3 * BLOCK.frames, BLOCK.frames, BLOCK.rate)).toEqual({ at: 30, lost: true })
  })

  it('follows a microphone whose own clock is slow', () => {
    const clock = new ArrivalClock()
    let off = 0
    for (let n = 0; n < 60_000; n += 1) off = clock.take((n + 1) * 10.002, n * BLOCK.frames, BLOCK.frames, BLOCK.rate).at - n * 10.002
    expect(Math.abs(off)).toBeLessThan(1.1)
  })
})
