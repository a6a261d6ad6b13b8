import { describe, expect, it } from 'vitest'
import { proposedLight } from '.'

const SIZE = { width: 32, height: 18 }
/** A picture that gets lighter from left to right, in one hue. */
function picture(middle: number, spread: number, [r, g, b]: readonly [number, number, number] = [1, 1, 1]): Uint8ClampedArray {
  const pixels = new Uint8ClampedArray(SIZE.width * SIZE.height * 4)
  for (let n = 0; n < pixels.length / 4; n += 1) {
    const value = middle + spread * (((n % SIZE.width) / (SIZE.width - 1)) * 2 - 1)
    pixels.set([value * r * 255, value * g * 255, value * b * 255, 255], n * 4)
  }
  return pixels
}
const proposed = (pixels: Uint8ClampedArray) => proposedLight(pixels, SIZE.width, SIZE.height)

describe('a light that is proposed', () => {
  it('makes dark pictures brighter and flat ones stronger, within bounds', () => {
    const dark = proposed(picture(0.2, 0.1))
    expect(dark.brightness).toBeGreaterThan(0.1)
    expect(dark.brightness).toBeLessThanOrEqual(0.2)
    expect(dark.contrast).toBeGreaterThan(1.1)
    expect(proposed(picture(0.8, 0.2)).brightness).toBeLessThan(-0.1)
  })

  it('warms what is blue and cools what is orange', () => {
    expect(proposed(picture(0.45, 0.3, [0.8, 0.95, 1.2])).warmth).toBeGreaterThan(0.5)
    expect(proposed(picture(0.45, 0.3, [1.3, 0.95, 0.6])).warmth).toBeLessThan(-0.3)
  })

  it('says something of any picture, black, white or none', () => {
    for (const pixels of [picture(0, 0), picture(1, 0), new Uint8ClampedArray(0)]) {
      const { brightness, contrast, warmth } = proposedLight(
        pixels,
        pixels.length === 0 ? 0 : SIZE.width,
        pixels.length === 0 ? 0 : SIZE.height,
      )
      expect([brightness, contrast, warmth].every(Number.isFinite)).toBe(true)
    }
  })
})
