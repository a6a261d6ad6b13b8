import { describe, expect, it } from 'vitest'
import { PictureWatch, cameraSeen } from '.'

/** Thirty pictures a second in each of some spans, in ms. */
function watched(...spans: readonly (readonly [from: number, to: number])[]) {
  const watch = new PictureWatch()
  for (const [from, to] of spans) for (let at = from; at < to; at += 33) watch.take(at)
  return watch.seen
}

describe('a camera', () => {
  it('that gives pictures all the time, or few of them in the dark, is never lost', () => {
    expect(cameraSeen(watched([40, 10_000]), 40, 9900)).toEqual({ lost: 0, until: expect.any(Number) as number })
    const dark = new PictureWatch()
    for (let at = 0; at < 10_000; at += 600) dark.take(at)
    expect(cameraSeen(dark.seen, 0, 10_000).lost).toBe(0)
  })

  it('is lost for as long as it gives none: before its first, between two, and after its last', () => {
    const seen = watched([2000, 4000], [6000, 8000])
    const { lost, until } = cameraSeen(seen, 0, 10_000)
    expect(Math.abs(lost - 6000)).toBeLessThan(100)
    expect(Math.abs(until - 8000)).toBeLessThan(40)
  })

  it('is judged by what its stretch has of it', () => {
    const seen = watched([0, 4000], [6000, 9000])
    // It begins in the middle of the gap, or ends there.
    expect(Math.abs(cameraSeen(seen, 5000, 4000).lost - 1000)).toBeLessThan(50)
    expect(Math.abs(cameraSeen(seen, 0, 5000).lost - 1000)).toBeLessThan(50)
    expect(cameraSeen(seen, 0, 4500).lost).toBe(0)
  })

  it('that gave nothing was not there', () => {
    expect(cameraSeen(watched(), 0, 5000)).toEqual({ lost: 0, until: 0 })
  })
})
