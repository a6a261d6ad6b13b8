import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { alignmentOf, anchorOf } from '.'

const RATE = 48_000

/** Something like a voice: a sum of tones whose strength comes and goes, with a little noise. */
function voiceAt(seconds: number): number {
  const swell = 0.5 + 0.5 * Math.sin(seconds * 7.3) * Math.sin(seconds * 2.1 + 1)
  return (
    swell *
    (0.3 * Math.sin(seconds * 2 * Math.PI * (140 + 30 * Math.sin(seconds * 1.7))) +
      0.15 * Math.sin(seconds * 2 * Math.PI * 910 + 3 * Math.sin(seconds * 11)))
  )
}
const sound = (from: number, ms: number, sampleRate: number, of: (seconds: number) => number = voiceAt): Float32Array =>
  Float32Array.from({ length: Math.round((ms / 1000) * sampleRate) }, (_, n) => of(from / 1000 + n / sampleRate))
const noise = (samples: Float32Array, most: number): Float32Array => {
  let seed = 3
  return samples.map((sample) => {
    seed = (seed * 1_103_515_245 + 12_345) % 2_147_483_648
    return sample + (seed / 1_073_741_824 - 1) * most
  })
}

describe('where a recording and its stretch meet', () => {
  it('is found to a fraction of a millisecond, at any rate of the microphone and through noise', () => {
    fc.assert(
      fc.property(fc.double({ min: -250, max: 250, noNaN: true }), fc.constantFrom(44_100, 48_000), (offset, sampleRate) => {
        const print = { at: 700, sampleRate, samples: sound(700, 2000, sampleRate) }
        // What was captured at t stands at t + offset in the file.
        const media = { from: 300, sampleRate: RATE, samples: noise(sound(300 - offset, 2800, RATE), 0.02) }
        const found = anchorOf(print, media)
        expect(found).not.toBeNull()
        expect(Math.abs((found ?? 0) - offset)).toBeLessThan(0.1)
      }),
      { numRuns: 12 },
    )
  })

  it('is not made up where nobody speaks, nor from another voice', () => {
    const print = { at: 700, sampleRate: RATE, samples: sound(700, 2000, RATE) }
    expect(anchorOf(print, { from: 300, sampleRate: RATE, samples: noise(new Float32Array(RATE * 3), 0.01) })).toBeNull()
    expect(
      anchorOf(
        { ...print, samples: noise(new Float32Array(RATE * 2), 0.001) },
        { from: 300, sampleRate: RATE, samples: sound(300, 2800, RATE) },
      ),
    ).toBeNull()
  })
})

describe('drift', () => {
  it('is what two anchors differ by over the time between them', () => {
    expect(
      alignmentOf([
        { at: 1000, offset: 20.2 },
        { at: 1_201_000, offset: 260.2 },
      ]),
    ).toEqual({ offset: 20, drift: 0.0002 })
  })

  it('is not read out of anchors that are near, nor believed when it is absurd', () => {
    expect(
      alignmentOf([
        { at: 1000, offset: 20 },
        { at: 9000, offset: 22 },
      ]),
    ).toEqual({ offset: 20, drift: 0 })
    expect(
      alignmentOf([
        { at: 1000, offset: 20 },
        { at: 61_000, offset: 220 },
      ]),
    ).toEqual({ offset: 20, drift: 0 })
    expect(alignmentOf([])).toBeNull()
  })
})
