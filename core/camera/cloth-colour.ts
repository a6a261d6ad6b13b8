/** Green and blue cloths: their hues lie between these, in degrees. */
const HUES = { least: 75, most: 260 } as const
/** How much of a colour a cloth has: the difference of its strongest and weakest part, and that as a share of the strongest. */
const STRONG = { difference: 40, share: 0.3 } as const
/** How much of the edge of a picture a cloth covers at least. */
const LEAST_SHARE = 0.4
/** Hues are gathered in steps of so many degrees. */
const STEP = 6
/** The edge that is looked at: a share of the width on both sides, and of the height above. */
const EDGE = 0.16

/** Red, green and blue, 0 to 255. */
export type Colour = readonly [number, number, number]

function* edgeColours(pixels: Uint8Array, width: number, height: number): Generator<Colour> {
  const [aside, above] = [Math.round(width * EDGE), Math.round(height * EDGE)]
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      if (y >= above && x >= aside && x < width - aside) continue
      const at = (y * width + x) * 3
      yield [pixels[at] ?? 0, pixels[at + 1] ?? 0, pixels[at + 2] ?? 0]
    }
  }
}

function hueOf([r, g, b]: Colour): number | null {
  const [most, least] = [Math.max(r, g, b), Math.min(r, g, b)]
  const difference = most - least
  if (difference < STRONG.difference || difference < most * STRONG.share) return null
  if (most === g) return 120 + ((b - r) / difference) * 60
  return most === b ? 240 + ((r - g) / difference) * 60 : null
}

const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0

/**
 * The colour of a cloth that hangs behind who is before a camera.
 * @param pixels red, green and blue of a picture, a byte each, row by row
 * @returns null where no green or blue cloth covers its edge
 */
export function clothColour(pixels: Uint8Array, width: number, height: number): Colour | null {
  const byHue = new Map<number, Colour[]>()
  let looked = 0
  for (const colour of edgeColours(pixels, width, height)) {
    looked += 1
    const hue = hueOf(colour)
    if (hue === null || hue < HUES.least || hue > HUES.most) continue
    const step = Math.round(hue / STEP)
    const same = byHue.get(step) ?? []
    byHue.set(step, same)
    same.push(colour)
  }
  const steps = [...byHue.keys()].sort((a, b) => (byHue.get(b)?.length ?? 0) - (byHue.get(a)?.length ?? 0))
  const [first] = steps
  if (first === undefined) return null
  const found = [first - 1, first, first + 1].flatMap((step) => byHue.get(step) ?? [])
  if (found.length < looked * LEAST_SHARE) return null
  const of = (n: 0 | 1 | 2): number => middle(found.map((colour) => colour[n]))
  return [of(0), of(1), of(2)]
}
