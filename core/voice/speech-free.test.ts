import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { peaksOf, speechFree } from '.'

const RATE = 16_000

/** Sound that is random but the same each time (Park and Miller's generator), -1 to 1. */
function dice(seed: number): () => number {
  let state = seed
  return () => {
    state = (state * 48_271) % 2_147_483_647
    return (state / 2_147_483_647) * 2 - 1
  }
}

interface Made {
  readonly samples: Int16Array
  /** Where it speaks, in ms. */
  readonly spoken: readonly (readonly [number, number])[]
}

/**
 * Made speech: words of voiced and hissed syllables that swell and fade, with pauses of known lengths, in noise.
 * @param ratio of speech to noise, in dB
 */
function speech(seed: number, ratio: number, pauses: readonly number[]): Made {
  const random = dice(seed)
  const spoken: (readonly [number, number])[] = []
  const parts: number[] = []
  const silence = (ms: number): void => {
    for (let n = 0; n < (ms * RATE) / 1000; n += 1) parts.push(0)
  }
  silence(400)
  for (const pause of pauses) {
    const from = (parts.length / RATE) * 1000
    for (let syllable = 0; syllable < 6; syllable += 1) {
      const length = 120 + Math.abs(random()) * 140
      const count = Math.round((length * RATE) / 1000)
      const pitch = 110 + Math.abs(random()) * 60
      // Every third is a hiss, which is softer than a vowel.
      const hiss = syllable % 3 === 2
      for (let n = 0; n < count; n += 1) {
        const swell = Math.sin((Math.PI * n) / count) ** 0.5
        const wave = hiss
          ? random() * 0.5
          : [1, 2, 3, 4].reduce((sum, k) => sum + Math.sin((2 * Math.PI * pitch * k * n) / RATE) / k, 0) * 0.5
        parts.push(wave * swell)
      }
      silence(20 + Math.abs(random()) * 50)
    }
    spoken.push([from, (parts.length / RATE) * 1000])
    silence(pause)
  }
  const loud = parts.filter((value) => value !== 0)
  const power = Math.sqrt(loud.reduce((sum, value) => sum + value * value, 0) / loud.length)
  // White noise from -1 to 1 has a power of one over the root of three.
  const noise = (power / 10 ** (ratio / 20)) * Math.sqrt(3)
  return {
    samples: Int16Array.from(parts, (value) => Math.round(Math.max(-1, Math.min(1, (value + random() * noise) * 0.4)) * 32_767)),
    spoken,
  }
}

describe('parts without speech', () => {
  for (const ratio of [60, 20, 10]) {
    it(`never reach into speech that is ${String(ratio)} dB above the room, and find most of a long pause`, () => {
      fc.assert(
        fc.property(
          fc.integer({ min: 1, max: 100_000 }),
          fc.array(fc.integer({ min: 200, max: 2500 }), { minLength: 4, maxLength: 12 }),
          (seed, pauses) => {
            const { samples, spoken } = speech(seed, ratio, [...pauses, 1500])
            const free = speechFree(peaksOf(samples, RATE), 200)
            for (const { from, to } of free)
              for (const [begin, end] of spoken)
                expect(to <= begin || from >= end, `${String(from)} to ${String(to)} in ${String(begin)} to ${String(end)}`).toBe(true)
            const found = free.reduce((sum, { from, to }) => sum + to - from, 0)
            const there = [...pauses, 1500].filter((pause) => pause >= 900).reduce((sum, pause) => sum + pause - 500, 0)
            expect(found).toBeGreaterThanOrEqual(there * 0.6)
          },
        ),
        { numRuns: 15 },
      )
    })
  }

  it('are the whole of a silent recording, and none of one that never falls silent', () => {
    expect(
      speechFree(
        Array.from({ length: 100 }, () => 0),
        300,
      ),
    ).toEqual([{ from: 0, to: 5000 }])
    expect(
      speechFree(
        Array.from({ length: 100 }, (_, n) => 100 + (n % 7) * 20),
        300,
      ),
    ).toEqual([])
  })
})
