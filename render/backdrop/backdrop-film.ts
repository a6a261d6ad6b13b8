import type { Colour } from '@core/camera'
import { BACKDROP_RATE } from '@core/model'
import type { Ms, NewBackdrop } from '@core/model'
import { RECORDING, outputOf } from '@render/process'
import { COLOURS, FROM_ITS_ZERO } from '@render/video'
import type { CameraFile } from '@render/video'
import { backdropGraph, otherInputs } from './backdrop-graph'
import { OUTLINE_RATE } from './outline-film'

/** Grows whenever the same camera and backdrop would look otherwise. */
export const BACKDROP = 1

/** Finer than any film is made of it; a picture that others can be reached from every second. */
const KEPT = ['-c:v', 'libx264', '-preset', 'superfast', '-crf', '18', '-g', String(BACKDROP_RATE), '-bf', '0', ...COLOURS]
/** Microseconds in a ms. */
const MICROSECONDS = 1000

export interface BackdropOrder {
  readonly camera: CameraFile
  readonly backdrop: NewBackdrop
  /** Files of outlines; null: told by the cloth. */
  readonly outlines: string | null
  /** PNG as large as the camera's picture; null: there is none. */
  readonly picture: string | null
  readonly cloth: Colour | null
  readonly out: string
  /** ms that it may take */
  readonly time: number
  readonly signal?: AbortSignal | undefined
  readonly niceness?: number
  /** Hears how far it has come, in ms of the recording. */
  readonly onTime?: (at: Ms) => void
}

/**
 * Makes a film of a camera with another backdrop: MP4 that every browser plays, without sound, in the recording's own time.
 * @throws ProcessFailed when it cannot be made
 */
export async function makeBackdropFilm(order: BackdropOrder): Promise<void> {
  const { camera, backdrop, outlines, picture, cloth, out, time, signal, niceness, onTime } = order
  const found =
    outlines === null ? null : ['-protocol_whitelist', 'file,pipe', '-f', 'h264', '-framerate', String(OUTLINE_RATE), '-i', outlines]
  const { args, inputs } = otherInputs({ outlines: found, picture }, cloth)
  const printed = outputOf(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-nostats', '-progress', 'pipe:1', '-y'],
      ...[...RECORDING, ...FROM_ITS_ZERO, '-ss', '0', '-i', camera.path, ...args],
      ...['-filter_complex', backdropGraph(backdrop, camera, inputs, true), '-map', '[out]', '-an', ...KEPT],
      ...['-movflags', '+faststart', '-f', 'mp4', out],
    ],
    { hold: { time }, signal, ...(niceness === undefined ? {} : { niceness }) },
  )
  for await (const chunk of printed) {
    const at = /out_time_us=(\d+)/.exec(chunk.toString())?.[1]
    if (at !== undefined) onTime?.(Number(at) / MICROSECONDS)
  }
}
