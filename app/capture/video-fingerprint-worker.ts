import { MOST_PICTURES } from '@core/camera'
import type { SmallPicture } from '@core/camera'
import { smallPictures } from './small-pictures'

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
  const small = smallPictures()
  const reader = readable.getReader()
  const pictures: StampedPicture[] = []
  while (pictures.length < MOST_PICTURES) {
    const { value: frame } = await reader.read()
    if (frame === undefined) break
    const came = performance.timeOrigin + performance.now() - origin
    pictures.push({ at: frame.timestamp / 1000, came, pixels: small(frame) })
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
