import { describe, expect, it } from 'vitest'
import { AS_FILMED } from '@core/model'
import type { Light } from '@core/model'
import { lightIntercepts } from '@core/camera'
import { run } from '@render/process'
import { filtersText, format, lit, litColours } from '.'
import type { Filter } from '.'

type Colour = readonly [number, number, number]
const COLOURS: readonly Colour[] = [
  [128, 128, 128],
  [200, 150, 120],
  [60, 70, 90],
]
const LIGHTS: readonly Light[] = [
  { brightness: 0.1, contrast: 1.2, warmth: 0 },
  { brightness: -0.08, contrast: 0.8, warmth: 0.6 },
  { brightness: 0, contrast: 1, warmth: -1 },
]

/** The colour that filters make of one. */
async function made([r, g, b]: Colour, filters: readonly Filter[]): Promise<readonly number[]> {
  const hex = [r, g, b].map((value) => value.toString(16).padStart(2, '0')).join('')
  const { stdout } = await run('ffmpeg', [
    ...['-v', 'error', '-f', 'lavfi', '-i', `color=0x${hex}:s=16x16,format=rgb24`, '-frames:v', '1'],
    ...['-vf', filtersText([...filters, format('rgb24')]), '-f', 'rawvideo', 'pipe:1'],
  ])
  return [...stdout.subarray(3 * 100, 3 * 100 + 3)]
}
/** As browsers draw it. */
const wanted = (colour: Colour, light: Light): readonly number[] => {
  const added = lightIntercepts(light)
  return colour.map((value, n) => Math.max(0, Math.min(255, value * light.contrast + (added[n] ?? 0) * 255)))
}
const TELEVISION: readonly Filter[] = [
  { name: 'scale', values: [], options: { out_color_matrix: 'bt709', out_range: 'tv' } },
  format('yuv420p'),
]
const BACK: readonly Filter[] = [{ name: 'scale', values: [], options: { in_color_matrix: 'bt709', in_range: 'tv' } }]
const gap = (a: readonly number[], b: readonly number[]): number => Math.max(...a.map((value, n) => Math.abs(value - (b[n] ?? 0))))

describe('the light of a camera picture', () => {
  it('is the same in a file, in frames that are drawn whole, and in browsers', async () => {
    for (const light of LIGHTS)
      for (const colour of COLOURS) {
        const television = await made(colour, [...TELEVISION, ...lit(light), ...BACK])
        expect([light, colour, gap(television, wanted(colour, light)) <= 4]).toEqual([light, colour, true])
        expect(gap(await made(colour, litColours(light)), wanted(colour, light))).toBeLessThanOrEqual(1.5)
      }
  })

  it('is left as it is where nothing was said of it', () => {
    expect(lit(undefined)).toEqual([])
    expect(lightIntercepts(AS_FILMED)).toEqual([0, 0, 0])
  })
})
