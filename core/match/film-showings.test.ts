import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { ANALYSIS_IMAGE, IMAGE_BYTES, distanceOf, distancesOf, filmShowings, stillsIn, timeOfImage } from '.'

const { width, height } = ANALYSIS_IMAGE

/** A image of one colour with a rectangle of another on it, in pixels. */
function image(ground: number, mark: readonly [number, number, number, number], colour: number): Uint8Array {
  const pixels = new Uint8Array(IMAGE_BYTES).fill(ground)
  const [left, top, w, h] = mark
  for (let y = top; y < top + h; y += 1)
    for (let x = left; x < left + w; x += 1) pixels.fill(colour, (y * width + x) * 3, (y * width + x) * 3 + 3)
  return pixels
}

/** Slides of which two differ by one line alone. */
const SLIDES = [
  image(250, [4, 3, 30, 3], 30),
  image(250, [4, 3, 22, 3], 30),
  image(250, [4, 3, 22, 8], 30),
  image(40, [10, 10, 20, 6], 230),
]

/** A image with a face in a corner that is never still, and a little noise. */
function faced(slide: Uint8Array, n: number): Uint8Array {
  const pixels = Uint8Array.from(slide, (value, at) => Math.max(0, Math.min(255, value + (((at * 7) % 3) - 1))))
  for (let y = height - 9; y < height; y += 1)
    for (let x = width - 9; x < width; x += 1) pixels.fill(90 + ((x * y + n * 31) % 80), (y * width + x) * 3, (y * width + x) * 3 + 3)
  return pixels
}

/** Images of slides shown for so many of them each. @param fade images in which one comes over the other */
function film(shown: readonly (readonly [number, number])[], fade = 0): readonly Uint8Array[] {
  const images: Uint8Array[] = []
  for (const [n, [slide, count]] of shown.entries()) {
    const [now, before] = [SLIDES[slide]!, SLIDES[shown[n - 1]?.[0] ?? slide]!]
    for (let at = 0; at < count; at += 1) {
      const share = Math.min(1, (at + 1) / (fade + 1))
      images.push(
        faced(
          Uint8Array.from(now, (value, p) => Math.round(value * share + (before[p] ?? 0) * (1 - share))),
          images.length,
        ),
      )
    }
  }
  return images
}

describe('filmShowings', () => {
  it('finds which slide is shown when, to an image, with a moving face over it; slides that differ by a line, and ones shown again', () => {
    const shown = [
      [0, 40],
      [1, 25],
      [2, 33],
      [1, 20],
      [3, 15],
      [0, 30],
    ] as const
    const found = filmShowings(film(shown), SLIDES)
    expect(found.map(({ shows }) => shows)).toEqual(shown.map(([slide]) => slide))
    let at = 0
    for (const [n, { from, until }] of found.entries()) {
      if (n > 0) expect(Math.abs(from - timeOfImage(at))).toBeLessThanOrEqual(1000 / ANALYSIS_IMAGE.fps)
      at += shown[n]?.[1] ?? 0
      expect(Math.abs(until - timeOfImage(at))).toBeLessThanOrEqual(1000 / ANALYSIS_IMAGE.fps)
    }
  })

  it('takes a change that comes over in a while to begin where it begins', () => {
    const [, second] = filmShowings(
      film(
        [
          [0, 40],
          [3, 40],
        ],
        7,
      ),
      SLIDES,
    )
    expect(Math.abs((second?.from ?? 0) - timeOfImage(40))).toBeLessThan(100)
  })

  it('takes one that comes over as something between for a change as well', () => {
    const between = image(140, [0, 0, 48, 27], 140)
    const images = [...film([[0, 40]]), ...Array.from({ length: 8 }, () => between), ...film([[3, 40]])]
    expect(filmShowings(images, SLIDES).map(({ shows }) => shows)).toEqual([0, 3])
  })

  it('says so where none of them is shown', () => {
    const other = image(128, [20, 5, 25, 18], 200)
    const images = [...film([[0, 30]]), ...Array.from({ length: 30 }, (_, n) => faced(other, n)), ...film([[2, 30]])]
    expect(filmShowings(images, SLIDES).map(({ shows }) => shows)).toEqual([0, null, 2])
    expect(filmShowings([], SLIDES)).toEqual([])
    expect(filmShowings(film([[0, 10]]), [])).toEqual([{ from: 0, until: timeOfImage(10), shows: null }])
  })

  it('covers every film from its beginning to its end without a gap', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(3), fc.integer({ min: 1, max: 30 })), { minLength: 1, maxLength: 8 }), (shown) => {
        const images = film(shown)
        const found = filmShowings(images, SLIDES)
        expect(found[0]?.from).toBe(0)
        expect(found.at(-1)?.until).toBe(timeOfImage(images.length))
        for (const [n, { from, until }] of found.entries()) {
          expect(until).toBeGreaterThan(from)
          if (n > 0) expect(from).toBe(found[n - 1]?.until)
        }
      }),
      { numRuns: 30 },
    )
  })
})

describe('distancesOf', () => {
  it('is what every image is apart from every reference, whatever stayed the same between', () => {
    const images = film([
      [0, 3],
      [2, 2],
      [0, 2],
    ])
    for (const [n, row] of distancesOf(images, SLIDES).entries())
      for (const [r, distance] of row.entries()) expect(distance).toBeCloseTo(distanceOf(images[n]!, SLIDES[r]!), 9)
  })
})

describe('stillsIn', () => {
  it('finds each slide once, however often it is shown', () => {
    const images = film([
      [0, 40],
      [3, 40],
      [0, 40],
    ])
    expect(stillsIn(images, 0, images.length)).toHaveLength(2)
  })

  it('finds none where all of the picture moves', () => {
    const images = Array.from({ length: 200 }, (_, n) =>
      Uint8Array.from({ length: IMAGE_BYTES }, (__, at) => ((at * 31 + Math.floor(n / 3) * 97) * 7) % 256),
    )
    expect(stillsIn(images, 0, images.length)).toBeNull()
  })
})
