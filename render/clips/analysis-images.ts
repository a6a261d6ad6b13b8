import { createCanvas, loadImage } from '@napi-rs/canvas'
import { ANALYSIS_IMAGE, IMAGE_BYTES } from '@core/match'
import { fittedInto } from '@core/model'
import type { Ms, Size } from '@core/model'
import { run, secondsOption } from '@render/process'

/** Pixels of a picture that are taken together for one of an analysis image, each way. */
const TOGETHER = 10
/** Width of a picture of a film that stands for a slide in lists, in pixels. */
const THUMB = 320

/**
 * A film small, some pictures a second (`ANALYSIS_IMAGE`).
 * @param file made by us of what was brought
 */
export async function analysisImages(file: string, signal: AbortSignal): Promise<readonly Uint8Array[]> {
  const { width, height, fps } = ANALYSIS_IMAGE
  const { stdout } = await run(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-nostats', '-protocol_whitelist', 'file,pipe', '-f', 'mov', '-i', file, '-an'],
      ...['-vf', `fps=${String(fps)}:start_time=0,scale=${String(width)}:${String(height)}:flags=area,format=rgb24`],
      ...['-f', 'rawvideo', 'pipe:1'],
    ],
    { signal },
  )
  return Array.from({ length: Math.floor(stdout.length / IMAGE_BYTES) }, (_, n) => stdout.subarray(n * IMAGE_BYTES, (n + 1) * IMAGE_BYTES))
}

/** What a slide's picture looks like in a film of some shape, with bars beside it where its own is another. */
export async function slideAnalysisImage(jpeg: Buffer, film: Size): Promise<Uint8Array> {
  const { width, height } = ANALYSIS_IMAGE
  const picture = await loadImage(jpeg)
  const frame = { width: width * TOGETHER, height: height * TOGETHER }
  const canvas = createCanvas(frame.width, frame.height)
  const ctx = canvas.getContext('2d')
  const { x, y, w, h } = fittedInto({ width: picture.width, height: picture.height }, film)
  ctx.drawImage(picture, x * frame.width, y * frame.height, w * frame.width, h * frame.height)
  const { data } = ctx.getImageData(0, 0, frame.width, frame.height)
  const image = new Uint8Array(IMAGE_BYTES)
  for (let n = 0; n < IMAGE_BYTES; n += 1) {
    const [pixel, channel] = [Math.floor(n / 3), n % 3]
    const [left, top] = [(pixel % width) * TOGETHER, Math.floor(pixel / width) * TOGETHER]
    let sum = 0
    for (let at = 0; at < TOGETHER * TOGETHER; at += 1)
      sum += data[((top + Math.floor(at / TOGETHER)) * frame.width + left + (at % TOGETHER)) * 4 + channel] ?? 0
    image[n] = Math.round(sum / TOGETHER ** 2)
  }
  return image
}

/** A picture of a film, and the same small, as JPEG. @param file made by us */
export async function filmStill(
  file: string,
  at: Ms,
  out: { readonly poster: string; readonly thumb: string },
  signal: AbortSignal,
): Promise<void> {
  const read = [
    '-hide_banner',
    '-loglevel',
    'error',
    '-nostats',
    '-protocol_whitelist',
    'file,pipe',
    '-ss',
    secondsOption(at),
    '-f',
    'mov',
    '-i',
    file,
  ]
  const one = ['-an', '-frames:v', '1', '-q:v', '3']
  await run('ffmpeg', [...read, ...one, '-y', out.poster], { signal })
  await run('ffmpeg', [...read, ...one, '-vf', `scale=${String(THUMB)}:-2`, '-y', out.thumb], { signal })
}
