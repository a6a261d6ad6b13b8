import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LoudnessMeter } from './loudness'

const RATE = 48_000

/** A tone. @param level of its peaks, in dBFS */
function tone(level: number, seconds: number, hertz = 1000): Int16Array {
  const amplitude = 32_767 * 10 ** (level / 20)
  return Int16Array.from({ length: Math.round(seconds * RATE) }, (_, n) =>
    Math.round(amplitude * Math.sin((2 * Math.PI * hertz * n) / RATE)),
  )
}

function measured(...parts: readonly Int16Array[]): LoudnessMeter {
  const meter = new LoudnessMeter()
  for (const part of parts) meter.take(part)
  return meter
}

describe('loudness', () => {
  it('of a tone at full scale in one channel is what the standard says', () => {
    // BS.1770-4, annex 1: a 997 Hz sine at 0 dBFS in one channel reads -3.01 LKFS.
    expect(measured(tone(0, 5, 997)).integrated).toBeCloseTo(-3.01, 1)
    expect(measured(tone(-30, 5, 997)).integrated).toBeCloseTo(-33.01, 1)
    expect(measured(tone(-6, 1)).peak).toBeCloseTo(-6, 2)
  })

  it('weighs low tones less, and high ones more', () => {
    expect(measured(tone(-20, 3, 40)).integrated ?? 0).toBeLessThan(-25)
    expect(measured(tone(-20, 3, 8000)).integrated ?? 0).toBeGreaterThan(-20)
  })

  it('leaves out what is quiet beside the rest, and what is silent', () => {
    // As in EBU Tech 3341, cases 3 and 4, in one channel.
    expect(measured(tone(-36, 10), tone(-23, 60), tone(-36, 10)).integrated).toBeCloseTo(-26, 1)
    expect(measured(tone(-72, 10), tone(-36, 10), tone(-23, 60), tone(-36, 10), tone(-72, 10)).integrated).toBeCloseTo(-26, 1)
    expect(measured(new Int16Array(RATE)).integrated).toBeNull()
    expect(measured(new Int16Array(RATE)).peak).toBeNull()
    expect(measured(tone(0, 0.3)).integrated).toBeNull()
  })

  it('is the same however the samples come', () => {
    const whole = tone(-18, 2, 440)
    const once = measured(whole).integrated
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 60_000 }), { maxLength: 6 }), (cuts) => {
        const at = [0, ...cuts.map((cut) => cut % whole.length).sort((a, b) => a - b), whole.length]
        expect(measured(...at.slice(1).map((end, n) => whole.subarray(at[n], end))).integrated).toBe(once)
      }),
      { numRuns: 20 },
    )
  })
})
