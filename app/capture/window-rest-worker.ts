import type { Ms } from '@core/model'

/** Pictures of a window, as its track gives them, and where the page's clock began, on the clock on the wall. */
export interface RestOrder {
  readonly readable: ReadableStream<VideoFrame>
  readonly origin: number
}

/** A window has come to rest, or moves again; times are of the page's clock. */
export type RestMessage =
  | { readonly kind: 'rests'; readonly n: number; readonly from: number; readonly picture: ArrayBuffer }
  | { readonly kind: 'moves'; readonly n: number; readonly until: number }

/** How large pictures are compared, in pixels: a letter that is typed changes one of them. */
const SMALL = { width: 160, height: 90 }
/** Farther apart in one pixel than this, 0 to 255, two pictures differ: less comes of how they are given. */
const DIFFERENT = 5
/** A window that did not change for so long rests, in ms; and so much lies at least between two full-size pictures. */
const RESTS: Ms = 500
const BETWEEN: Ms = 1500

const small = new OffscreenCanvas(SMALL.width, SMALL.height).getContext('2d', { willReadFrequently: true })

function pixelsOf(frame: VideoFrame): Uint8ClampedArray {
  if (small === null) throw new Error('this browser draws no canvas')
  small.drawImage(frame, 0, 0, SMALL.width, SMALL.height)
  return small.getImageData(0, 0, SMALL.width, SMALL.height).data
}

const differ = (a: Uint8ClampedArray, b: Uint8ClampedArray): boolean => a.some((value, n) => Math.abs(value - (b[n] ?? 0)) > DIFFERENT)

async function inFull(frame: VideoFrame): Promise<ArrayBuffer> {
  const canvas = new OffscreenCanvas(frame.displayWidth, frame.displayHeight)
  canvas.getContext('2d')?.drawImage(frame, 0, 0)
  return await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer()
}

/** Watches a window: whenever it rests, what it looks like then is posted, and when it moves again. */
async function watch({ readable, origin }: RestOrder): Promise<void> {
  const now = (): number => performance.timeOrigin + performance.now() - origin
  const reader = readable.getReader()
  let last: { readonly frame: VideoFrame; readonly pixels: Uint8ClampedArray } | null = null
  let [changed, posted, n] = [0, -Infinity, 0]
  /** The full-size picture that it looks like now, if there is one. */
  let resting: number | null = null

  async function rest(): Promise<void> {
    if (last === null || resting !== null || now() - changed < RESTS || now() - posted < BETWEEN) return
    resting = n
    n += 1
    posted = now()
    const from = changed
    const message: RestMessage = { kind: 'rests', n: resting, from, picture: await inFull(last.frame) }
    self.postMessage(message, { transfer: [message.picture] })
  }
  function moves(): void {
    if (resting !== null) {
      const message: RestMessage = { kind: 'moves', n: resting, until: now() }
      self.postMessage(message)
    }
    resting = null
  }
  // A window at rest gives no pictures: it is looked without being asked to.
  const timer = setInterval(() => void rest().catch(() => undefined), RESTS / 4)
  for (;;) {
    const { value: frame } = await reader.read()
    if (frame === undefined) break
    const pixels = pixelsOf(frame)
    if (last !== null && !differ(last.pixels, pixels) && sameSize(last.frame, frame)) {
      frame.close()
      continue
    }
    moves()
    changed = now()
    last?.frame.close()
    last = { frame, pixels }
  }
  clearInterval(timer)
  last?.frame.close()
}

const sameSize = (a: VideoFrame, b: VideoFrame): boolean => a.displayWidth === b.displayWidth && a.displayHeight === b.displayHeight

self.onmessage = ({ data }: MessageEvent<RestOrder>) => {
  void watch(data)
}
