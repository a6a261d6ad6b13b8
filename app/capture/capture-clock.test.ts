import { describe, expect, it } from 'vitest'
import { CaptureClock } from './capture-clock'

describe('the clock of a microphone', () => {
  it('smooths stamps that jitter, to well under a millisecond', () => {
    const clock = new CaptureClock()
    let worst = 0
    for (let n = 0; n < 2000; n += 1) {
      // Every seventh block is stamped up to four milliseconds late.
      const { at } = clock.take(1000 + n * 10 + (n % 7 === 0 ? n % 5 : 0.1 * (n % 3)), 480, 48_000)
      if (n > 100) worst = Math.max(worst, Math.abs(at - 1000 - n * 10 - 0.1))
    }
    expect(worst).toBeLessThan(0.3)
  })

  it('knows of blocks that were lost, and is right again behind them', () => {
    const clock = new CaptureClock()
    for (let n = 0; n < 300; n += 1) clock.take(n * 10, 480, 48_000)
    const { at, lost } = clock.take(3340, 480, 48_000)
    expect([lost, at]).toEqual([true, 3340])
    expect(clock.take(3350, 480, 48_000)).toEqual({ at: 3350, lost: false })
  })

  it('follows a microphone whose own clock is slow', () => {
    const clock = new CaptureClock()
    let last = 0
    // 200 parts in a million slow: each block of 480 samples takes 10.002 ms.
    for (let n = 0; n < 60_000; n += 1) last = clock.take(n * 10.002, 480, 48_000).at
    expect(Math.abs(last - 59_999 * 10.002)).toBeLessThan(1)
  })
})
