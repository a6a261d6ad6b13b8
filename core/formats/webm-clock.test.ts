import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { WebmClock } from '.'

const element = (id: readonly number[], content: readonly number[]): readonly number[] => [
  ...id,
  0x40 | (content.length >> 8),
  content.length & 0xff,
  ...content,
]
const block = (track: number, relative: number): readonly number[] =>
  element([0xa3], [0x80 | track, (relative >> 8) & 0xff, relative & 0xff, 0x80, 1, 2, 3, 4])
/** A segment and clusters without a length, as a recorder writes them. */
const open = (id: readonly number[]): readonly number[] => [...id, 0x01, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff, 0xff]
const cluster = (at: number, blocks: readonly number[]): readonly number[] => [
  ...open([0x1f, 0x43, 0xb6, 0x75]),
  ...element([0xe7], [at >> 16, (at >> 8) & 0xff, at & 0xff]),
  ...blocks,
]

const FILE = Uint8Array.from([
  ...element([0x1a, 0x45, 0xdf, 0xa3], [1, 2, 3]),
  ...open([0x18, 0x53, 0x80, 0x67]),
  ...cluster(0, [...block(1, 0), ...block(2, 12), ...block(1, 33)]),
  ...cluster(5000, [...block(2, -8), ...block(1, 640)]),
  ...cluster(70_000, block(1, 250)),
])

describe('how far a recording has come', () => {
  it('is the time of its last block, wherever its chunks are cut', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(FILE.length), { maxLength: 12 }), (cuts) => {
        const clock = new WebmClock()
        const at = [0, ...cuts, FILE.length].sort((a, b) => a - b)
        const times = at.slice(1).map((to, n) => clock.feed(FILE.subarray(at[n], to)))
        expect(times.at(-1)).toBe(70_250)
        expect([...times].sort((a, b) => a - b)).toEqual(times)
      }),
    )
  })

  it('counts a block only when it is there as a whole', () => {
    const clock = new WebmClock()
    expect(clock.feed(FILE.subarray(0, FILE.length - 1))).toBe(5640)
    expect(clock.feed(FILE.subarray(FILE.length - 1))).toBe(70_250)
  })
})
