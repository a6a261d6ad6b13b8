import { ClapEar } from '@core/voice'
import { CaptureClock } from './capture-clock'
import { pageStamp } from './page-stamp'

/** `origin`: where the page's clock began, on the clock on the wall. */
export interface ClapOrder {
  readonly readable: ReadableStream<AudioData>
  readonly origin: number
}

/** Listens to a microphone's raw blocks, and posts when a clap began, in ms of the page's clock. */
async function listen({ readable, origin }: ClapOrder): Promise<void> {
  const clock = new CaptureClock()
  const ear = new ClapEar()
  const reader = readable.getReader()
  for (;;) {
    const { value: block } = await reader.read()
    if (block === undefined) return
    const { numberOfFrames: frames, sampleRate: rate, timestamp } = block
    const { at } = clock.take(pageStamp(timestamp / 1000, performance.now(), performance.timeOrigin - origin), frames, rate)
    const samples = new Float32Array(frames)
    block.copyTo(samples, { planeIndex: 0, format: 'f32-planar' })
    block.close()
    const heard = ear.hear(samples, at, rate)
    if (heard !== null) self.postMessage(heard)
  }
}

self.onmessage = (message: MessageEvent<ClapOrder>) => { void listen(message.data) }
