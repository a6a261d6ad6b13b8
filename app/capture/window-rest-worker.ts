import { RestWatch } from './rest-watch'

/** Pictures of a window, as its track gives them, and where the page's clock began, on the clock on the wall. */
export interface RestOrder {
  readonly readable: ReadableStream<VideoFrame>
  readonly origin: number
}

/** How large pictures are compared, in pixels: a letter that is typed changes one of them. */
const SMALL = { width: 160, height: 90 }
/** How often it is looked whether the window rests, in ms. */
const LOOK = 125

const small = new OffscreenCanvas(SMALL.width, SMALL.height).getContext('2d', { willReadFrequently: true })

function valuesOf(frame: VideoFrame): Uint8ClampedArray {
  if (small === null) throw new Error('this browser draws no canvas')
  small.drawImage(frame, 0, 0, SMALL.width, SMALL.height)
  return small.getImageData(0, 0, SMALL.width, SMALL.height).data
}

async function inFull(frame: VideoFrame): Promise<ArrayBuffer> {
  const canvas = new OffscreenCanvas(frame.displayWidth, frame.displayHeight)
  canvas.getContext('2d')?.drawImage(frame, 0, 0)
  return await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer()
}

/** Watches a window: whenever it rests, what it looks like then is posted, and when it moves again. */
async function watch({ readable, origin }: RestOrder): Promise<void> {
  const now = (): number => performance.timeOrigin + performance.now() - origin
  const rests = new RestWatch<VideoFrame>({
    alike: (a, b) => a.displayWidth === b.displayWidth && a.displayHeight === b.displayHeight,
    close: (frame) => {
      frame.close()
    },
    inFull,
    tell: (message) => {
      self.postMessage(message, { transfer: message.kind === 'rests' ? [message.picture] : [] })
    },
  })
  const timer = setInterval(() => {
    rests.look(now())
  }, LOOK)
  const reader = readable.getReader()
  for (;;) {
    const { value: frame } = await reader.read()
    if (frame === undefined) break
    rests.came({ frame, values: valuesOf(frame) }, now())
  }
  clearInterval(timer)
  rests.end()
}

self.onmessage = ({ data }: MessageEvent<RestOrder>) => {
  void watch(data)
}
