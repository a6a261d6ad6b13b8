import { MOST_PICTURES, PRINT_SIZE } from '@core/camera'
import type { SmallPicture } from '@core/camera'

/** Pictures of a camera, as its track gives them, and until when they are wanted, on the page's clock. */
export interface FaceOrder {
  readonly readable: ReadableStream<VideoFrame>
  /** Where the page's clock began, on the clock on the wall. */
  readonly origin: number
  readonly until: number
}

/** A small picture with its own stamp for `at`, and when it came, on the page's clock. */
export interface StampedPicture extends SmallPicture {
  readonly came: number
}

let ended = false

/** Makes pictures small until there are enough of them, then posts them all. */
async function watch({ readable, origin, until }: FaceOrder): Promise<void> {
  const canvas = new OffscreenCanvas(PRINT_SIZE.width, PRINT_SIZE.height)
  const ctx = canvas.getContext('2d', { willReadFrequently: true })
  if (ctx === null) return
  const reader = readable.getReader()
  const pictures: StampedPicture[] = []
  while (pictures.length < MOST_PICTURES) {
    const { value: frame } = await reader.read()
    if (frame === undefined) break
    const came = performance.timeOrigin + performance.now() - origin
    ctx.drawImage(frame, 0, 0, PRINT_SIZE.width, PRINT_SIZE.height)
    const { data } = ctx.getImageData(0, 0, PRINT_SIZE.width, PRINT_SIZE.height)
    // ITU-R BT.601, as cameras have it.
    const pixels = Uint8Array.from({ length: data.length / 4 }, (_, n) => Math.round(0.299 * (data[n * 4] ?? 0) + 0.587 * (data[n * 4 + 1] ?? 0) + 0.114 * (data[n * 4 + 2] ?? 0)))
    pictures.push({ at: frame.timestamp / 1000, came, pixels })
    frame.close()
    if (came > until || ended) break
  }
  await reader.cancel()
  self.postMessage(pictures)
}

self.onmessage = ({ data }: MessageEvent<FaceOrder | 'end'>) => {
  if (data === 'end') ended = true
  else void watch(data)
}
