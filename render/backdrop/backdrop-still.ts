import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { imageSize } from 'image-size'
import { clothColour, outlineAdvice } from '@core/camera'
import type { OutlineAdvice } from '@core/camera'
import { Refusal } from '@core/model'
import type { Ms, NewBackdrop } from '@core/model'
import { TELEVISION, chain, filter, filtersText, format, graphText, scaledFrom } from '@render/filters'
import { RECORDING, run } from '@render/process'
import type { ApartBounds } from '@render/process'
import { FROM_ITS_ZERO } from '@render/video'
import type { CameraFile } from '@render/video'
import { backdropGraph, otherInputs } from './backdrop-graph'
import { behindPicture } from './behind-picture'
import { OUTLINES_IN, asLookedAt, outlineOfPicture } from './outline-film'
import { OUTLINE_SIZE } from './outline-network'

/** A picture of a camera, as its backdrop would have it look. */
export interface BackdropStill {
  /** JPEG. */
  readonly picture: Buffer
  /** What would help, the worst first. */
  readonly advice: readonly OutlineAdvice[]
}

export interface BackdropStillOrder {
  /** JPEG, at most `MOST_STILL` pixels on a side. */
  readonly jpeg: Buffer
  readonly backdrop: NewBackdrop
  /** File of the picture that is to be behind; null: there is none. */
  readonly behind: string | null
  readonly apart: Omit<ApartBounds, 'memory'>
}

/** Longest side of a picture that is tried. */
export const MOST_STILL = 1920
/** Width of one that is taken of a recording. */
const STILL_WIDTH = 640
/** Options of `scale` that make colours of a JPEG file (JFIF) of others. */
const TO_JPEG = { out_range: 'full', out_color_matrix: 'bt601' } as const
const QUIET = ['-hide_banner', '-loglevel', 'error', '-threads', '1'] as const
const READ_JPEG = ['-protocol_whitelist', 'file,pipe', '-f', 'jpeg_pipe'] as const
const JPEG_OUT = ['-frames:v', '1', '-f', 'mjpeg', '-q:v', '3', 'pipe:1'] as const

export const NO_CLOTH = 'No green or blue cloth is seen behind the face in this recording. Let the outline be found instead.'

function sizeOfJpeg(jpeg: Buffer): CameraFile['size'] {
  try {
    const { width, height, type } = imageSize(jpeg)
    if (type === 'jpg' && Math.max(width, height) <= MOST_STILL && Math.min(width, height) >= 32) return { width, height }
  } catch {
    // It is no picture.
  }
  throw new Refusal('malformed', 'This is no picture of a camera.')
}

/** A picture of a recording's camera, as JPEG. @param at ms into it */
export async function cameraJpeg(camera: CameraFile, at: Ms): Promise<Buffer> {
  const width = Math.min(STILL_WIDTH, camera.size.width)
  const small = filter('scale', [width, -2], { ...scaledFrom(camera.colours), ...TO_JPEG })
  const read = ['-ss', String(at / 1000), '-i', camera.path, '-vf', filtersText([small])]
  return (await run('ffmpeg', [...QUIET, ...RECORDING, ...FROM_ITS_ZERO, ...read, ...JPEG_OUT])).stdout
}

/**
 * Shows what a backdrop would look like, in one picture.
 * @throws Refusal when the picture is none, or there is no cloth behind who is told by one; ProcessFailed when it takes too long
 */
export async function backdropStill({ jpeg, backdrop, behind, apart }: BackdropStillOrder): Promise<BackdropStill> {
  const size = sizeOfJpeg(jpeg)
  const folder = await mkdtemp(join(tmpdir(), 'aisle-still-'))
  const at = (name: string): string => join(folder, name)
  try {
    await writeFile(at('camera.jpg'), jpeg)
    const camera: CameraFile = { kind: 'recording', path: at('camera.jpg'), size, colours: { range: 'full', matrix: 'bt601' } }
    const seen = ['-vf', filtersText(asLookedAt(camera)), '-f', 'rawvideo', 'pipe:1']
    const { stdout: pixels } = await run('ffmpeg', [...QUIET, ...READ_JPEG, '-i', camera.path, ...seen])
    const cloth = backdrop.finder === 'cloth' ? clothColour(pixels, OUTLINE_SIZE.width, OUTLINE_SIZE.height) : null
    if (backdrop.finder === 'cloth' && cloth === null) throw new Refusal('unreadable', NO_CLOTH)
    const outline = cloth === null ? await outlineOfPicture(pixels, apart) : null
    if (outline !== null) await writeFile(at('outline'), outline)
    if (behind !== null) await writeFile(at('behind.png'), await behindPicture(behind, size))
    const files = {
      outlines: outline === null ? null : [...OUTLINES_IN, '-i', at('outline')],
      picture: behind === null ? null : at('behind.png'),
    }
    const { args, inputs } = otherInputs(files, cloth)
    const toJpeg = filter('scale', [], { ...scaledFrom(TELEVISION), ...TO_JPEG })
    const graph = `${backdropGraph(backdrop, camera, inputs, false)};${graphText([chain(['out'], [toJpeg, format('yuvj420p')], ['jpeg'])])}`
    const { stdout } = await run('ffmpeg', [
      ...[...QUIET, ...READ_JPEG, '-i', camera.path, ...args],
      ...['-filter_complex', graph, '-map', '[jpeg]', ...JPEG_OUT],
    ])
    return { picture: stdout, advice: outline === null ? [] : outlineAdvice(outline, pixels) }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
