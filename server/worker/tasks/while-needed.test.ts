import { describe, expect, it } from 'vitest'
import { WhileNeeded } from './while-needed'

describe('work that goes on while it is needed', () => {
  it('is of no use once nobody needs it, or that cannot be known', async () => {
    for (const answer of [() => Promise.resolve(false), () => Promise.reject(new Error('away'))]) {
      const watch = new WhileNeeded(answer)
      await expect.poll(() => watch.needless, { timeout: 10_000 }).toBe(true)
      expect(watch.signal.aborted).toBe(true)
      watch.end()
    }
  })

  it('is not taken for that where a part of it failed and the rest is halted: whoever waits hears of it', () => {
    const watch = new WhileNeeded(() => Promise.resolve(true))
    watch.halt()
    expect([watch.signal.aborted, watch.needless]).toEqual([true, false])
    watch.end()
  })
})
