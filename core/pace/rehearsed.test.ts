import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { rehearsedTimes, runLength, timesOfRun } from '.'
import type { RunThrough } from '.'

const run = (...visits: readonly (readonly [string, number])[]): RunThrough => ({
  visits: visits.map(([slide, length]) => ({ slide: asId(slide), length })),
})
const anyRun = fc.array(fc.tuple(fc.constantFrom('a', 'b', 'c'), fc.nat(90_000)), { maxLength: 12 }).map((visits) => run(...visits))

describe('run-throughs', () => {
  it('add up all visits of a slide, and lose no time', () => {
    expect([...timesOfRun(run(['a', 1000], ['b', 500], ['a', 250]))]).toEqual([
      ['a', 1250],
      ['b', 500],
    ])
    fc.assert(
      fc.property(anyRun, (one) => {
        expect([...timesOfRun(one).values()].reduce((sum, time) => sum + time, 0)).toBe(runLength(one))
      }),
    )
  })

  it('say what the newest took and what is usual', () => {
    const times = rehearsedTimes([run(['a', 9000], ['b', 100]), run(['a', 1000]), run(['a', 3000], ['c', 40])])
    expect([...times]).toEqual([
      ['a', { last: 9000, median: 3000 }],
      ['b', { last: 100, median: 100 }],
      ['c', { last: 40, median: 40 }],
    ])
    expect(rehearsedTimes([run(['a', 1000]), run(['a', 2000])]).get(asId('a'))?.median).toBe(1500)
  })

  it('have a median between the shortest and the longest', () => {
    fc.assert(
      fc.property(fc.array(anyRun, { minLength: 1, maxLength: 6 }), (runs) => {
        for (const [slide, { median }] of rehearsedTimes(runs)) {
          const times = runs.flatMap((one) => timesOfRun(one).get(slide) ?? [])
          expect(median).toBeGreaterThanOrEqual(Math.min(...times))
          expect(median).toBeLessThanOrEqual(Math.max(...times))
        }
      }),
    )
  })
})
