import { createCanvas, ImageData } from '@napi-rs/canvas'
import type { Light, Ratio, Size } from '@core/model'
import type { Drawable } from '@core/paint'
import { constantRate, filter, filtersText, format, litColours, scaledFrom } from '@render/filters'
import type { Colours, Filter } from '@render/filters'
import { OWN_CLIP, RECORDING, outputOf, piecesOf } from '@render/process'
import type { Drawn } from './picture-source'

/** Where a camera is to be read from. */
export interface CameraFile {
  /** As it was recorded, or a film that was made of that. */
  readonly kind: 'recording' | 'film'
  readonly path: string
  readonly size: Size
  readonly colours: Colours
}

/** Options of `ffmpeg` before a camera. */
export const cameraKind = (camera: Pick<CameraFile, 'kind'> | undefined): readonly string[] =>
  camera?.kind === 'film' ? OWN_CLIP : RECORDING

/** Times of a recording are the stretch's: it may begin with nothing, which is not to be left out. */
export const FROM_ITS_ZERO: readonly string[] = ['-seek_timestamp', '1']

/** Has a recording play in the film's time. @param tempo how much of it does */
export const atTempo = ({ num, den }: Ratio): Filter => filter('setpts', [`PTS*${String(den)}/${String(num)}`])

/**
 * Decodes a few frames of a camera, at the film's own rate, to be drawn by hand.
 * @param from ms into the recording
 * @param tempo how much of the recording plays in the film's time
 * @param count how many frames
 * @param fps frames a second
 * @returns exactly `count` one after the other, the last one again where the recording ends before; none when there is none. The same
 * canvas each time
 */
export async function* cameraFrames(
  camera: CameraFile,
  from: number,
  tempo: Ratio,
  count: number,
  fps: number,
  signal?: AbortSignal,
  light?: Light,
): AsyncGenerator<Drawable<Drawn>> {
  const { width, height } = camera.size
  const output = outputOf(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-threads',
      '1',
      ...cameraKind(camera),
      ...FROM_ITS_ZERO,
      '-ss',
      String(Math.max(0, from) / 1000),
      '-t',
      ((count / fps + 0.2) * (tempo.num / tempo.den)).toFixed(4),
      '-i',
      camera.path,
      '-vf',
      filtersText([
        atTempo(tempo),
        constantRate(fps),
        filter('scale', [], scaledFrom(camera.colours)),
        format('rgba'),
        ...litColours(light),
      ]),
      '-frames:v',
      String(count),
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      'pipe:1',
    ],
    { signal },
  )
  const canvas = createCanvas(width, height)
  const face = { image: canvas, width, height }
  let found = 0
  for await (const picture of piecesOf(output, width * height * 4)) {
    found += 1
    canvas.getContext('2d').putImageData(new ImageData(new Uint8ClampedArray(picture.buffer), width, height), 0, 0)
    yield face
  }
  for (; found > 0 && found < count; found += 1) yield face
}
