import { describe, expect, it } from 'vitest'
import { ClapEar, deviceLatencyOf, likelyFrame, seenLate } from '.'

const RATE = 48_000
const BLOCK = 480

/** Noise of a room with claps at times in ms, given block by block. */
function heardClaps(length: number, claps: readonly number[], noise = 0.01): readonly number[] {
  const ear = new ClapEar()
  const found: number[] = []
  for (let start = 0; start < (length * RATE) / 1000; start += BLOCK) {
    const samples = Float32Array.from({ length: BLOCK }, (_, n) => {
      const at = ((start + n) / RATE) * 1000
      const loud = claps.some((clap) => at >= clap && at < clap + 20)
      return Math.sin((start + n) * 12.9898) * (loud ? 0.8 : noise)
    })
    const heard = ear.hear(samples, (start / RATE) * 1000, RATE)
    if (heard !== null) found.push(heard)
  }
  return found
}

describe('a clap', () => {
  it('is heard where it begins, once', () => {
    const claps = [1003.4, 2500, 4100.7]
    const found = heardClaps(5000, claps)
    expect(found.length).toBe(3)
    for (const [n, clap] of claps.entries()) expect(Math.abs((found[n] ?? 0) - clap)).toBeLessThan(0.5)
  })

  it('is not heard in a room that is merely noisy', () => {
    expect(heardClaps(5000, [], 0.15)).toEqual([])
  })

  it('is seen in the first picture that changes much near its sound', () => {
    const frames = [0, 0.001, 0.002, 0.4, 0.5, 0.3, 0.002].map((change, n) => ({ at: 1000 + n * 33, change }))
    expect(likelyFrame(1050, frames)).toBe(3)
    expect(likelyFrame(5000, frames)).toBe(-1)
    expect(
      likelyFrame(
        1050,
        frames.map((frame) => ({ ...frame, change: 0.001 })),
      ),
    ).toBe(-1)
  })

  it('says how late the picture is, between that picture and the one before', () => {
    const frames = [1000, 1033, 1066, 1099].map((at) => ({ at, change: 0 }))
    expect(seenLate(1000, frames, 3)).toBeCloseTo(82.5)
    expect(() => seenLate(1000, frames, 9)).toThrow(RangeError)
  })

  it('lays the lateness on whichever comes later, so that neither is ever moved too early', () => {
    expect(deviceLatencyOf([118, 122])).toEqual({ camera: 120, mic: 0 })
    expect(deviceLatencyOf([-79, -81])).toEqual({ camera: 0, mic: 80 })
    expect(deviceLatencyOf([])).toEqual({ camera: 0, mic: 0 })
  })
})
