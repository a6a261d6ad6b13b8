import type { Light } from '@core/model'

/** How far the strongest warmth moves the two differences of colour, as a share of their range. */
export const WARMTH = 0.06
/** What a difference of blue and of red adds to red, green and blue (ITU-R BT.709, limited to one). */
export const OF_BLUE = [0, -0.1873, 1.8556] as const
export const OF_RED = [1.5748, -0.4681, 0] as const

/** How light a colour is (ITU-R BT.709), in the unit of its parts. */
export const lightnessOf = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b

/** What a light does to the lightness of a picture and its differences of colour, all from 0 to 1 with grey in the middle. */
export interface LightTransfer {
  /** By how much each is stretched around its middle. */
  readonly slope: number
  /** What is added then. */
  readonly lightness: number
  readonly blue: number
  readonly red: number
}

export const lightTransfer = ({ brightness, contrast, warmth }: Light): LightTransfer => ({
  slope: contrast,
  lightness: brightness,
  blue: -warmth * WARMTH,
  red: warmth * WARMTH,
})

/** The same for red, green and blue from 0 to 1: each is stretched by the slope, and this is added. */
export function lightIntercepts(light: Light): readonly [number, number, number] {
  const { slope, lightness, blue, red } = lightTransfer(light)
  const of = (n: 0 | 1 | 2): number => 0.5 - 0.5 * slope + lightness + OF_BLUE[n] * blue + OF_RED[n] * red
  return [of(0), of(1), of(2)]
}
