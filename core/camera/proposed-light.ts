import { LIGHT_RANGE } from '@core/model'
import type { Light } from '@core/model'
import { OF_BLUE, OF_RED, WARMTH, lightnessOf } from './light'

/** How bright a face in good light is as a rule, how much that varies over the picture, and how warm it is: shares of their ranges. */
const GOOD = { lightness: 0.47, spread: 0.2, warmth: 0.035 } as const
/** So much of what is missing is made good: a dim room stays one. */
const SHARE = 0.65
/** What a proposal goes to at most: what is filmed in the dark is noise. */
const MOST = { brightness: 0.2, contrast: 1.35, leastContrast: 0.9 } as const
/** Less than this is not worth a change. */
const GRAIN = 0.02

const within = (value: number, least: number, most: number): number => Math.max(least, Math.min(most, value))
const rounded = (value: number): number => Math.round(value * 100) / 100

/**
 * The light that would make a camera picture look filmed in good light: proposed by its middle, where the face is.
 * @param pixels RGBA, row by row, as filmed
 */
export function proposedLight(pixels: Uint8ClampedArray, width: number, height: number): Light {
  let [sum, squares, warm, count] = [0, 0, 0, 0]
  for (let y = Math.floor(height * 0.1); y < height * 0.9; y += 1) {
    for (let x = Math.floor(width * 0.25); x < width * 0.75; x += 1) {
      const at = (y * width + x) * 4
      const [r, g, b] = [(pixels[at] ?? 0) / 255, (pixels[at + 1] ?? 0) / 255, (pixels[at + 2] ?? 0) / 255]
      const lightness = lightnessOf(r, g, b)
      sum += lightness
      squares += lightness * lightness
      warm += ((r - lightness) / OF_RED[0] - (b - lightness) / OF_BLUE[2]) / 2
      count += 1
    }
  }
  if (count === 0) return { brightness: 0, contrast: 1, warmth: 0 }
  const mean = sum / count
  const spread = Math.sqrt(Math.max(1e-6, squares / count - mean * mean))
  const contrast = within(1 + (GOOD.spread / spread - 1) * SHARE, MOST.leastContrast, MOST.contrast)
  // Stretched around the middle, it is elsewhere.
  const stretched = (mean - 0.5) * contrast + 0.5
  const brightness = within((GOOD.lightness - stretched) * SHARE, -MOST.brightness, MOST.brightness)
  const warmth = within(((GOOD.warmth - warm / count) * SHARE) / WARMTH, LIGHT_RANGE.warmth.least, LIGHT_RANGE.warmth.most)
  return {
    brightness: Math.abs(brightness) < GRAIN ? 0 : rounded(brightness),
    contrast: Math.abs(contrast - 1) < GRAIN ? 1 : rounded(contrast),
    warmth: Math.abs(warmth) < GRAIN ? 0 : rounded(warmth),
  }
}
