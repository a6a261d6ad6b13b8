import { lightIntercepts, lightTransfer } from '@core/camera'
import type { Light } from '@core/model'
import { filter } from './filter-graph'
import type { Filter } from './filter-graph'

/** Values of television: lightness from 16 to 235, differences of colour from 16 to 240 around 128. */
const LIGHTNESS = { black: 16, range: 219, middle: 125.5 } as const
const COLOUR = { range: 224, middle: 128 } as const

const line = (middle: number, slope: number, added: number): string =>
  `clip((val-${String(middle)})*${slope.toFixed(4)}+${(middle + added).toFixed(3)},0,255)`

/** Gives a picture of television another light: see `lightTransfer`. @param light left out: as filmed */
export function lit(light: Light | undefined): readonly Filter[] {
  if (light === undefined) return []
  const { slope, lightness, blue, red } = lightTransfer(light)
  return [
    filter('lutyuv', [], {
      y: line(LIGHTNESS.middle, slope, lightness * LIGHTNESS.range),
      u: line(COLOUR.middle, slope, blue * COLOUR.range),
      v: line(COLOUR.middle, slope, red * COLOUR.range),
    }),
  ]
}

/** The same for a picture of red, green and blue. */
export function litColours(light: Light | undefined): readonly Filter[] {
  if (light === undefined) return []
  const [r, g, b] = lightIntercepts(light).map((added) => `clip(val*${light.contrast.toFixed(4)}+${(added * 255).toFixed(3)},0,255)`)
  return [filter('lutrgb', [], { r: r ?? 'val', g: g ?? 'val', b: b ?? 'val' })]
}
