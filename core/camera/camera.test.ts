import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PRINT_SIZE, packVideoFingerprint, pictureAnchor, unpackVideoFingerprint } from '.'
import type { SmallPicture } from '.'

const { width, height } = PRINT_SIZE
const noise = (seed: number): number => {
  const x = Math.sin(seed * 12.9898) * 43_758.5453
  return x - Math.floor(x)
}

/** What a camera sees at a time: a head that sways and a mouth that opens, over a room, with a sensor's noise. */
function seen(at: number, moves: number, grain: number): Uint8Array {
  const [x, mouth] = [24 + moves * 2 * Math.sin(at / 310), moves * Math.abs(Math.sin(at / 90))]
  return Uint8Array.from({ length: width * height }, (_, n) => {
    const [px, py] = [n % width, Math.floor(n / width)]
    const head = Math.hypot((px - x) / 8, (py - 12) / 9) < 1 ? 90 : 0
    const lips = Math.hypot((px - x) / 3, (py - 17) / (0.5 + mouth)) < 1 ? -60 : 0
    return Math.max(0, Math.min(255, 60 + head + lips + px + (noise(at * 7 + n) - 0.5) * grain))
  })
}

/** A print and a recording of the same camera. @param offset how much later the recording has everything */
function taken(
  offset: number,
  {
    moves = 1,
    grain = 4,
    rate = 30,
    lost = () => false,
  }: { readonly moves?: number; readonly grain?: number; readonly rate?: number; readonly lost?: (n: number) => boolean } = {},
): { readonly print: readonly SmallPicture[]; readonly media: readonly SmallPicture[] } {
  const times = Array.from({ length: 200 }, (_, n) => -800 + (n * 1000) / rate + (noise(n) - 0.5) * 4)
  const print = times.filter((at) => at > 200 && at < 2600).map((at) => ({ at, pixels: seen(at, moves, grain) }))
  // A recording begins with its first picture, stores lightness otherwise, and is coarser.
  const media = times
    .filter((at, n) => at + offset >= 0 && at + offset < 5000 && !lost(n))
    .map((at) => ({ at: at + offset, pixels: seen(at, moves, grain).map((pixel) => 16 + Math.round((pixel * 0.86) / 3) * 3) }))
  return { print, media }
}

describe('a recording of a camera', () => {
  it('is found to stand where it does in its stretch, to a few ms', () => {
    fc.assert(
      fc.property(fc.integer({ min: -700, max: 300 }), fc.constantFrom(30, 25, 15), (offset, rate) => {
        const { print, media } = taken(offset, { rate })
        expect(Math.abs((pictureAnchor(print, media) ?? Infinity) - offset)).toBeLessThan(3)
      }),
      { numRuns: 12 },
    )
  })

  it('is found as well where pictures were lost', () => {
    const { print, media } = taken(-64, { lost: (n) => noise(n * 3) < 0.4 })
    expect(Math.abs((pictureAnchor(print, media) ?? Infinity) + 64)).toBeLessThan(3)
  })

  it('is found by a flash alone, as in a room in which nothing else moves', () => {
    const dark = new Uint8Array(width * height).fill(60)
    const bright = new Uint8Array(width * height).fill(250)
    const at = (n: number): number => (n * 1000) / 30
    const lit = (n: number): Uint8Array => (n % 60 >= 8 && n % 60 < 12 ? bright : dark)
    const print = Array.from({ length: 115 }, (_, n) => ({ at: at(n + 1), pixels: lit(n + 1) }))
    const media = Array.from({ length: 150 }, (_, n) => ({ at: at(n) + 7 + (noise(n) - 0.5) * 8, pixels: lit(n) }))
    expect(Math.abs((pictureAnchor(print, media) ?? Infinity) - 7)).toBeLessThan(3)
  })

  it('says nothing of a room in which nothing moves, or with too few pictures', () => {
    const still = taken(-40, { moves: 0, grain: 0 })
    expect(pictureAnchor(still.print, still.media)).toBeNull()
    const { print, media } = taken(-40)
    expect(pictureAnchor(print.slice(0, 4), media)).toBeNull()
    expect(pictureAnchor(print, media.slice(0, 4))).toBeNull()
    expect(pictureAnchor([], [])).toBeNull()
  })

  it('of something else is not mistaken for it', () => {
    const { print } = taken(0)
    const other = Array.from({ length: 150 }, (_, n) => ({
      at: n * 33.3,
      pixels: seen(n * 33.3, 1, 4).map((_pixel, k) => Math.floor(noise(n * 1300 + k) * 255)),
    }))
    expect(pictureAnchor(print, other)).toBeNull()
  })
})

describe('a video fingerprint', () => {
  it('comes back as it was packed', () => {
    const { print } = taken(0)
    expect(unpackVideoFingerprint(packVideoFingerprint(print))).toEqual(print)
  })

  it('that is cut short, too long, or of impossible times is none', () => {
    const { print } = taken(0)
    const whole = packVideoFingerprint(print)
    expect(unpackVideoFingerprint(whole.subarray(1))).toBeNull()
    expect(unpackVideoFingerprint(new Uint8Array())).toBeNull()
    expect(unpackVideoFingerprint(packVideoFingerprint(Array.from({ length: 121 }, () => print[0]!)))).toBeNull()
    expect(unpackVideoFingerprint(packVideoFingerprint([{ at: NaN, pixels: print[0]!.pixels }]))).toBeNull()
    expect(unpackVideoFingerprint(packVideoFingerprint([{ at: 1e9, pixels: print[0]!.pixels }]))).toBeNull()
  })
})
