import { createCanvas, ImageData } from '@napi-rs/canvas'
import type { Ratio, Size } from '@core/model'
import type { Drawable } from '@core/paint'
import { run } from '@render/process'
import type { Drawn } from './picture-source'

/** Where a camera is to be read from. */
export interface CameraFile {
  readonly path: string
  readonly size: Size
}

/** Times of a recording are the stretch's: it may begin with nothing, which is not to be left out. */
export const FROM_ITS_ZERO: readonly string[] = ['-seek_timestamp', '1']

/**
 * Decodes a few frames of a camera, at the film's own rate, to be drawn by hand.
 * @param from ms into the recording
 * @param tempo how much of the recording plays in the film's time
 * @param count how many frames
 * @param rate frames a second
 * @returns exactly `count`, the last one again where the recording ends before
 */
export async function cameraFrames(camera: CameraFile, from: number, tempo: Ratio, count: number, rate: number, signal?: AbortSignal): Promise<readonly Drawable<Drawn>[]> {
  const { width, height } = camera.size
  const { stdout } = await run('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-protocol_whitelist', 'file,pipe', '-f', 'matroska,webm', ...FROM_ITS_ZERO, '-ss', String(Math.max(0, from) / 1000), '-t', ((count / rate + 0.2) * (tempo.num / tempo.den)).toFixed(4), '-i', camera.path,
    '-vf', `setpts=PTS*${String(tempo.den)}/${String(tempo.num)},fps=${String(rate)}:start_time=0`, '-frames:v', String(count), '-f', 'rawvideo', '-pix_fmt', 'rgba', 'pipe:1',
  ], { signal })
  const bytes = width * height * 4
  const found = Math.min(count, Math.floor(stdout.length / bytes))
  if (found === 0) return []
  const frames = Array.from({ length: found }, (_, n): Drawable<Drawn> => {
    const canvas = createCanvas(width, height)
    canvas.getContext('2d').putImageData(new ImageData(new Uint8ClampedArray(stdout.buffer, stdout.byteOffset + n * bytes, bytes), width, height), 0, 0)
    return { image: canvas, width, height }
  })
  return Array.from({ length: count }, (_, n) => frames[Math.min(n, found - 1)] as Drawable<Drawn>)
}
