import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { duration, fileSize, moment, preciseDuration, readDuration, roughTime } from '.'

describe('a length of time', () => {
  it('is said as on a clock, with hours only when there are any', () => {
    expect([0, 9400, 59_600, 754_000, 3_600_000, 11_045_000].map(duration)).toEqual(['0:00', '0:09', '1:00', '12:34', '1:00:00', '3:04:05'])
    expect(duration(-5)).toBe('0:00')
    expect([0, 990, 61_250, 3_600_000].map(preciseDuration)).toEqual(['0:00.0', '0:00.9', '1:01.2', '60:00.0'])
  })

  it('that was typed is read in seconds, minutes, or both', () => {
    const typed = { 90: 90_000, '90s': 90_000, '1:30': 90_000, '2m': 120_000, ' 1,5 min ': 90_000, '1:02:03': 3_723_000, '0.5': 500 }
    for (const [text, ms] of Object.entries(typed)) expect(readDuration(text)).toBe(ms)
    for (const text of ['', 'soon', '1:99', '-3', '1:2:3:4', '5 hours']) expect(readDuration(text)).toBeNull()
  })

  it('that is read as it was said is the same', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 86_000 }), (seconds) => {
        expect(readDuration(duration(seconds * 1000))).toBe(seconds * 1000)
      }),
    )
  })

  it('that is only about known is said so', () => {
    expect([400, 9999, 12_000, 53_000, 56_000, 150_000].map(roughTime)).toEqual([
      'a few seconds',
      'a few seconds',
      'about 10 s',
      'about 55 s',
      'about 1 min',
      'about 3 min',
    ])
  })
})

describe('other words', () => {
  it('say a size as file managers do, with two figures while they tell more', () => {
    expect([0, 999, 1000, 9960, 12_400_000, 3_210_000_000].map(fileSize)).toEqual([
      '0 bytes',
      '999 bytes',
      '1.0 kB',
      '10.0 kB',
      '12 MB',
      '3.2 GB',
    ])
  })

  it('say a moment with its day when that is another', () => {
    const now = new Date(2026, 4, 7, 18, 0)
    expect(moment(new Date(2026, 4, 7, 9, 5).toISOString(), now)).not.toMatch(/7|May/)
    expect(moment(new Date(2026, 4, 6, 9, 5).toISOString(), now)).toMatch(/6/)
  })
})
