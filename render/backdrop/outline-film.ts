import { Readable } from 'node:stream'
import { evenPixels, fittedInto } from '@core/model'
import type { Ms, PixelBox, Size } from '@core/model'
import { constantRate, filter, filtersText, format, scaledFrom } from '@render/filters'
import type { Filter } from '@render/filters'
import { RECORDING, outputOf, run, runFed, throughApart } from '@render/process'
import type { ApartBounds } from '@render/process'
import { FROM_ITS_ZERO } from '@render/video'
import type { CameraFile } from '@render/video'
import { OUTLINE_SIZE } from './outline-network'

/** Outlines a second. Those between are filled in. */
export const OUTLINE_RATE = 10
/** How long a part of a camera is whose outlines are found at a time: what was found stays when somebody stops it. */
export const OUTLINE_PART: Ms = 60_000
/** Grows whenever the same camera would give other outlines. */
export const OUTLINES = 2

/** MB that the network may take with what runs it. */
const MEMORY = 900
/** How finely outlines are kept; they have one channel, from black to white. */
const KEPT = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '14', '-g', '100', '-bf', '0', '-pix_fmt', 'gray', '-color_range', 'pc']

/** Where a camera's picture stands in what the network looks at: whole, in its shape, with black beside it. Even pixels. */
export function outlineBox(camera: Size): PixelBox {
  const { w, h } = fittedInto(camera, OUTLINE_SIZE)
  const [width, height] = [evenPixels(w * OUTLINE_SIZE.width), evenPixels(h * OUTLINE_SIZE.height)]
  return { x: (OUTLINE_SIZE.width - width) >> 1, y: (OUTLINE_SIZE.height - height) >> 1, width, height }
}

/** Makes of a camera's pictures what the network looks at. */
export function asLookedAt({ size, colours }: Pick<CameraFile, 'size' | 'colours'>): readonly Filter[] {
  const box = outlineBox(size)
  return [
    filter('scale', [box.width, box.height], { flags: 'area', ...scaledFrom(colours) }),
    filter('pad', [OUTLINE_SIZE.width, OUTLINE_SIZE.height, box.x, box.y]),
    format('rgb24'),
  ]
}

const PICTURES_OUT = ['-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1']
const LOOKED_AT = `${String(OUTLINE_SIZE.width)}x${String(OUTLINE_SIZE.height)}`
/** Options of `ffmpeg` before outlines as they come from the network. */
export const OUTLINES_IN: readonly string[] = ['-f', 'rawvideo', '-pix_fmt', 'gray', '-s', LOOKED_AT]

export interface OutlineOrder {
  readonly camera: CameraFile
  /** Counted from 0, `OUTLINE_PART` each. */
  readonly part: number
  /** Where they are kept: an H.264 stream, `OUTLINE_RATE` pictures a second. */
  readonly out: string
  readonly apart: Omit<ApartBounds, 'memory'>
}

/**
 * Finds the outline of who is before a camera, in a part of its recording.
 * @throws ProcessFailed when it cannot be read, or takes longer than it may
 */
export async function findOutline({ camera, part, out, apart }: OutlineOrder): Promise<void> {
  const { signal, niceness, time } = apart
  const lowly = { signal, hold: { time }, ...(niceness === undefined ? {} : { niceness }) }
  const [from, length] = [(part * OUTLINE_PART) / 1000, OUTLINE_PART / 1000]
  const pictures = outputOf(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-threads', '1', ...RECORDING, ...FROM_ITS_ZERO],
      ...['-ss', String(from), '-t', String(length), '-i', camera.path],
      ...['-vf', filtersText([constantRate(OUTLINE_RATE), ...asLookedAt(camera)]), ...PICTURES_OUT],
    ],
    lowly,
  )
  const outlines = throughApart('find-outline', pictures, { ...apart, memory: MEMORY })
  const keep = ['-hide_banner', '-loglevel', 'error', '-y', ...OUTLINES_IN, '-r', String(OUTLINE_RATE), '-i', 'pipe:0', ...KEPT]
  await runFed('ffmpeg', [...keep, '-f', 'h264', out], outlines, lowly)
}

/**
 * The outline of who is before a camera in one picture: a byte a pixel, `OUTLINE_SIZE` of them.
 * @param picture as the network looks at it
 */
export async function outlineOfPicture(picture: Uint8Array, apart: Omit<ApartBounds, 'memory'>): Promise<Uint8Array> {
  const chunks: Uint8Array[] = []
  for await (const chunk of throughApart('find-outline', Readable.from([picture]), { ...apart, memory: MEMORY })) chunks.push(chunk)
  return Buffer.concat(chunks)
}

/** A camera's picture at a time, as the network looks at it. */
export async function lookedAt(camera: CameraFile, at: Ms): Promise<Uint8Array> {
  const { stdout } = await run('ffmpeg', [
    ...['-hide_banner', '-loglevel', 'error', '-threads', '1', ...RECORDING, ...FROM_ITS_ZERO],
    ...['-ss', String(at / 1000), '-i', camera.path, '-frames:v', '1', '-vf', filtersText(asLookedAt(camera)), ...PICTURES_OUT],
  ])
  return stdout
}
