import { CaptureClock } from './capture-clock'
import { pageStamp } from './page-stamp'

/** Raw blocks as they are handed to a worker, and where the page's clock began, on the clock on the wall. */
export interface BlockSource {
  readonly readable: ReadableStream<AudioData>
  readonly origin: number
}

/** A block of a microphone: its first channel, and when its first sample was captured, in ms of the page's clock. */
export interface HeardBlock {
  readonly at: number
  readonly rate: number
  readonly samples: Float32Array
  /** Whether blocks were lost before it. */
  readonly lost: boolean
}

/** Reads a microphone's raw blocks in a worker, until its track ends. */
export async function* heardBlocks({ readable, origin }: BlockSource): AsyncGenerator<HeardBlock> {
  const clock = new CaptureClock()
  const reader = readable.getReader()
  for (;;) {
    const { value: block } = await reader.read()
    if (block === undefined) return
    const { numberOfFrames: frames, sampleRate: rate, timestamp } = block
    const { at, lost } = clock.take(pageStamp(timestamp / 1000, performance.now(), performance.timeOrigin - origin), frames, rate)
    const samples = new Float32Array(frames)
    block.copyTo(samples, { planeIndex: 0, format: 'f32-planar' })
    block.close()
    yield { at, rate, samples, lost }
  }
}
