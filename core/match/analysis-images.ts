import type { Ms } from '@core/model'

/** How a film is sampled for its slides: small, and some pictures a second. Three bytes a pixel, red, green and blue. */
export const ANALYSIS_IMAGE = { width: 48, height: 27, fps: 15 } as const
export const IMAGE_BYTES = ANALYSIS_IMAGE.width * ANALYSIS_IMAGE.height * 3

/** When an image was taken. */
export const timeOfImage = (number: number): Ms => (number * 1000) / ANALYSIS_IMAGE.fps

/** More than this apart, in levels of a colour, is only another thing, however much more it is: a face, a hand, what was drawn. */
const OTHER = 24

const apart = (a: number, b: number): number => Math.min(OTHER, Math.abs(a - b))

/** How far two images are apart, in levels of a colour; 0: they are the same, `OTHER`: nothing is. */
export function distanceOf(a: Uint8Array, b: Uint8Array): number {
  let sum = 0
  for (let n = 0; n < IMAGE_BYTES; n += 1) sum += apart(a[n] ?? 0, b[n] ?? 0)
  return sum / IMAGE_BYTES
}

/**
 * How far each image is from each of some references. What stays the same from one image to the next is not compared again.
 * @returns a row for each image, with a distance for each reference
 */
export function distancesOf(images: readonly Uint8Array[], references: readonly Uint8Array[]): readonly Float64Array[] {
  const rows: Float64Array[] = []
  let before: Uint8Array | null = null
  for (const image of images) {
    const last: Float64Array | undefined = rows.at(-1)
    if (before === null || last === undefined) rows.push(Float64Array.from(references, (reference) => distanceOf(image, reference)))
    else {
      const row = Float64Array.from(last)
      for (let n = 0; n < IMAGE_BYTES; n += 1) {
        const [now, then] = [image[n] ?? 0, before[n] ?? 0]
        if (now === then) continue
        for (const [r, reference] of references.entries()) {
          const there = reference[n] ?? 0
          row[r] = (row[r] ?? 0) + (apart(now, there) - apart(then, there)) / IMAGE_BYTES
        }
      }
      rows.push(row)
    }
    before = image
  }
  return rows
}
