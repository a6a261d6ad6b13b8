import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { clothColour, outlineAdvice, presenterOutline, steadyOutline } from '.'
import type { Colour } from '.'

const [WIDTH, HEIGHT] = [64, 36]

/** A picture of one colour with somebody in the middle, and the outline of them. */
function pictureOf(behind: Colour, somebody: Colour, sure = 255) {
  const pixels = new Uint8Array(WIDTH * HEIGHT * 3)
  const outline = new Uint8Array(WIDTH * HEIGHT)
  for (let n = 0; n < outline.length; n += 1) {
    const inside = n % WIDTH > 22 && n % WIDTH < 42 && n / WIDTH > 8
    outline[n] = inside ? sure : 0
    pixels.set(inside ? somebody : behind, n * 3)
  }
  return { pixels, outline }
}
const SKIN: Colour = [224, 172, 132]
const seenIn = ({ pixels, outline }: ReturnType<typeof pictureOf>) => outlineAdvice(outline, pixels)

describe('a cloth', () => {
  it.each([
    ['green', [47, 168, 79]],
    ['dim green', [30, 92, 48]],
    ['blue', [40, 70, 190]],
  ] as const)('that is %s is seen by its colour', (_, colour) => {
    expect(clothColour(pictureOf(colour, SKIN).pixels, WIDTH, HEIGHT)).toEqual(colour)
  })

  it.each([
    ['a white wall', [230, 230, 225]],
    ['a dark room', [20, 26, 22]],
    ['a red curtain', [170, 40, 40]],
  ] as const)('is not seen in %s', (_, colour) => {
    expect(clothColour(pictureOf(colour, [30, 140, 60]).pixels, WIDTH, HEIGHT)).toBeNull()
  })
})

describe('what would help', () => {
  it('is nothing where somebody is well seen', () => {
    expect(seenIn(pictureOf([200, 214, 206], SKIN))).toEqual([])
  })

  it('is to be there, to have more light, to wear something else, to be surer', () => {
    expect(seenIn(pictureOf([200, 214, 206], SKIN, 0))).toEqual(['nobody'])
    expect(seenIn(pictureOf([90, 90, 90], [40, 30, 26]))).toEqual(['dark'])
    expect(seenIn(pictureOf([220, 176, 136], SKIN))).toEqual(['alike'])
    const doubted = pictureOf([200, 214, 206], SKIN)
    for (let n = 0; n < 200; n += 1) doubted.outline[n] = 120
    expect(seenIn(doubted)).toEqual(['doubtful'])
  })
})

describe('a steadied outline', () => {
  const outline = fc.uint8Array({ minLength: 8, maxLength: 8 })

  it('loses what flickers and keeps what moves', () => {
    expect([...steadyOutline(Uint8Array.of(200), Uint8Array.of(160), Uint8Array.of(200))][0]).toBeGreaterThan(175)
    expect([...steadyOutline(Uint8Array.of(0), Uint8Array.of(255), Uint8Array.of(255))]).toEqual([255])
  })

  it('lies between what is seen before, now and after, and is the same where nothing changes', () => {
    fc.assert(
      fc.property(outline, outline, outline, (before, now, after) => {
        for (const [n, value] of steadyOutline(before, now, after).entries()) {
          const all = [before[n] ?? 0, now[n] ?? 0, after[n] ?? 0]
          expect(value).toBeGreaterThanOrEqual(Math.min(...all))
          expect(value).toBeLessThanOrEqual(Math.max(...all))
        }
        expect(steadyOutline(now, now, now)).toEqual(now)
        expect(steadyOutline(null, now, null)).toEqual(now)
      }),
    )
  })
})

describe('an outline', () => {
  const { outline } = pictureOf([200, 214, 206], SKIN)
  const withDisc = outline.slice()
  for (let y = 2; y < 7; y += 1) for (let x = 54; x < 60; x += 1) withDisc[y * WIDTH + x] = 200

  it('loses what stands apart and is small', () => {
    expect(presenterOutline(withDisc, WIDTH)).toEqual(outline)
  })

  it('keeps somebody who sits beside, and is as it was where all hangs together', () => {
    const two = outline.slice()
    for (let y = 8; y < HEIGHT; y += 1) for (let x = 2; x < 14; x += 1) two[y * WIDTH + x] = 230
    expect(presenterOutline(two, WIDTH)).toEqual(two)
    expect(presenterOutline(outline, WIDTH)).toEqual(outline)
    expect(presenterOutline(new Uint8Array(outline.length), WIDTH)).toEqual(new Uint8Array(outline.length))
  })
})
