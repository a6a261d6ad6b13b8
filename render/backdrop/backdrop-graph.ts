import type { NewBackdrop, Size } from '@core/model'
import { BACKDROP_RATE, unreachable } from '@core/model'
import { OF_BLUE, OF_RED, OUTLINE_CERTAINTY, lightnessOf } from '@core/camera'
import type { Colour } from '@core/camera'
import { TELEVISION, TO_TELEVISION, chain, constantRate, crop, filter, format, graphText, scaledFrom, split } from '@render/filters'
import type { Chain, Filter } from '@render/filters'
import type { CameraFile } from '@render/video'
import { outlineBox } from './outline-film'

/** Steps of an outline's pixels are smoothed so far, in its own pixels. */
const SMOOTH = 0.8
/** The room is put out of focus in a picture so many times as small, so far, as a share of its height. */
const SMALLER = 6
const OUT_OF_FOCUS = 0.022
/**
 * How far a colour is from the cloth's in either difference of colour, of 255: below the first it is the cloth, above the second the
 * presenter. What is near the cloth's colour at an edge is left out: no green rim stays.
 */
const CLOTH = { near: 17, far: 37 } as const

/** What the graph reads besides the camera, which is its first input. */
export interface BackdropInputs {
  /** Outlines, `OUTLINE_RATE` a second; null: the presenter is told by the cloth. */
  readonly outlines: number | null
  /** A picture as large as the camera's; null: there is none. */
  readonly picture: number | null
  /** Colour of the cloth; null: the presenter is told by their outline. */
  readonly cloth: Colour | null
}

/** Options that name a file, or nothing, of each input besides the camera: they are read in this order. */
export interface OtherFiles {
  readonly outlines: readonly string[] | null
  /** File of a PNG as large as the camera's picture. */
  readonly picture: string | null
}

/** Options of `ffmpeg` for what the graph reads besides the camera, and which input each is. */
export function otherInputs({ outlines, picture }: OtherFiles, cloth: Colour | null) {
  const pictureArgs = ['-protocol_whitelist', 'file,pipe', '-f', 'png_pipe', '-framerate', String(BACKDROP_RATE), '-i']
  const read = [...(outlines === null ? [] : [outlines]), ...(picture === null ? [] : [[...pictureArgs, picture]])]
  const inputs: BackdropInputs = { outlines: outlines === null ? null : 1, picture: picture === null ? null : read.length, cloth }
  return { args: read.flat(), inputs }
}

const hexOf = (colour: string): string => colour.replace('#', '0x')

/** How much wider than the presenter what is left out of the room is, in pixels of the small picture. */
const RIM = [filter('erosion'), filter('erosion')] as const

/**
 * The room out of focus, from `room` and `around`. The presenter is left out of it, so that their colours do not shine around them: as
 * much of each pixel counts as shows the room.
 */
function outOfFocus({ width, height }: Size): readonly Chain[] {
  const blurred = filter('gblur', [], { sigma: ((height / SMALLER) * OUT_OF_FOCUS).toFixed(2) })
  const small = [Math.max(2, Math.round(width / SMALLER)), Math.max(2, Math.round(height / SMALLER))] as const
  const scaled = filter('scale', small, { flags: 'area', ...scaledFrom(TELEVISION) })
  return [
    chain(['room'], [scaled, format('gbrp16')], ['colours']),
    chain(['around'], [scaled, filter('negate'), ...RIM, format('gbrp16'), split(2)], ['shown', 'shares']),
    chain(['colours', 'shown'], [filter('premultiply'), blurred], ['sum']),
    chain(['shares'], [blurred], ['weight']),
    chain(
      ['sum', 'weight'],
      [filter('unpremultiply'), filter('scale', [width, height], { flags: 'bicubic', ...TO_TELEVISION }), format('yuv420p')],
      ['behind'],
    ),
  ]
}

/** What is behind. */
function behind(backdrop: NewBackdrop, { width, height }: Size, picture: number | null): readonly Chain[] {
  switch (backdrop.kind) {
    case 'soft':
      return outOfFocus({ width, height })
    case 'plain': {
      const of = filter('color', [], { c: hexOf(backdrop.colour), s: `${String(width)}x${String(height)}`, r: BACKDROP_RATE })
      return [chain([], [of, filter('scale', [], TO_TELEVISION), format('yuv420p')], ['behind'])]
    }
    case 'picture':
      return [
        chain(
          [`${String(picture)}:v`],
          [filter('scale', [], TO_TELEVISION), format('yuv420p'), filter('loop', [], { loop: -1, size: 1 })],
          ['behind'],
        ),
      ]
    default:
      return unreachable(backdrop)
  }
}

const clipped = (value: string, from: number, to: number): string => `clip((${value}-${String(from)})*255/${String(to - from)},0,255)`

/** Differences of colour of ITU-R BT.709, as television has them. */
function differencesOf([r, g, b]: Colour): { readonly blue: number; readonly red: number } {
  const lightness = lightnessOf(r, g, b)
  const scaled = (difference: number): number => Math.round(128 + (difference * 224) / 255)
  return { blue: scaled((b - lightness) / OF_BLUE[2]), red: scaled((r - lightness) / OF_RED[0]) }
}

/** What is not the cloth, from `keyed`: white where the presenter is. It has a pixel for four, as colours do, which is fine enough. */
function besideCloth(cloth: Colour, { width, height }: Size): readonly Chain[] {
  const { blue, red } = differencesOf(cloth)
  const { near, far } = CLOTH
  const away = (of: number): Filter => filter('lutyuv', [], { y: clipped(`abs(val-${String(of)})`, near, far) })
  return [
    chain(['keyed'], [filter('extractplanes', ['u+v'])], ['blues', 'reds']),
    chain(['blues'], [away(blue)], ['blue']),
    chain(['reds'], [away(red)], ['red']),
    chain(['blue', 'red'], [filter('blend', [], { all_mode: 'lighten' }), scaledTo(width, height)], ['whole']),
  ]
}

const scaledTo = (width: number, height: number): Filter => filter('scale', [width, height], { flags: 'bicubic' })

/** The outline that was found, filled in between, as large as the camera's picture. */
function foundOutline(input: number, size: Size, moving: boolean): readonly Chain[] {
  const box = outlineBox(size)
  const between = moving ? [filter('framerate', [], { fps: BACKDROP_RATE, interp_start: 0, interp_end: 255, scene: 100 })] : []
  const smooth = filter('gblur', [], { sigma: SMOOTH })
  const filters = [format('gray'), ...between, crop(box.width, box.height, box.x, box.y), smooth, scaledTo(size.width, size.height)]
  return [
    chain(
      [`${String(input)}:v`],
      [...filters, filter('lutyuv', [], { y: clipped('val', OUTLINE_CERTAINTY.not, OUTLINE_CERTAINTY.yes) })],
      ['whole'],
    ),
  ]
}

/**
 * The graph that puts another backdrop behind who is before a camera: `out`.
 * @param moving whether it is a film; otherwise one picture
 */
export function backdropGraph(backdrop: NewBackdrop, camera: CameraFile, inputs: BackdropInputs, moving: boolean): string {
  const { size, colours } = camera
  const soft = backdrop.kind === 'soft'
  const streams = ['camera', ...(soft ? ['room'] : []), ...(inputs.cloth === null ? [] : ['keyed'])]
  const read = [filter('scale', [], { ...scaledFrom(colours), ...TO_TELEVISION }), format('yuv420p')]
  const timed = moving ? [constantRate(BACKDROP_RATE)] : []
  return graphText([
    chain(['0:v'], [...timed, ...read, ...(streams.length > 1 ? [split(streams.length)] : [])], streams),
    ...behind(backdrop, size, inputs.picture),
    ...(inputs.cloth === null ? foundOutline(inputs.outlines ?? 1, size, moving) : besideCloth(inputs.cloth, size)),
    chain(['whole'], soft ? [split(2)] : [], soft ? ['outline', 'around'] : ['outline']),
    chain(['camera', 'outline'], [filter('alphamerge')], ['presenter']),
    chain(['behind', 'presenter'], [filter('overlay', [], { format: 'yuv420', shortest: true }), format('yuv420p')], ['out']),
  ])
}
