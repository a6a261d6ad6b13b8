import { describe, expect, it } from 'vitest'
import { algebraRun } from '@core/testing'

describe('random talks', () => {
  it('edited at random are what a list of their milliseconds says, after every edit', () => {
    for (let seed = 1; seed <= 300; seed += 1)
      expect(
        () => {
          algebraRun(seed, 14)
        },
        `seed ${String(seed)}`,
      ).not.toThrow()
  }, 60_000)
})
