import { ArrivalClock } from './arrival-clock'
import { CaptureClock } from './capture-clock'
import { pageStamp } from './page-stamp'

/**
 * Raw blocks as they are handed to a worker: with the times at which they were captured, or counted alone. `origin`: where the page's
 * clock began, on the clock on the wall.
 */
export type BlockSource =
  | { readonly kind: 'stamped'; readonly readable: ReadableStream<AudioData>; readonly origin: number }
  | { readonly kind: 'counted'; readonly port: MessagePort; readonly origin: number }

/** A block of a microphone: its first channel, and when its first sample was captured, in ms of the page's clock. */
export interface HeardBlock {
  readonly at: number
  readonly rate: number
  readonly samples: Float32Array
  /** Whether blocks were lost before it. */
  readonly lost: boolean
}

/** What the audio graph posts (`public/block-worklet.js`). */
interface CountedBlock {
  /** The count of its first sample. */
  readonly first: number
  readonly rate: number
  /** What the clock on the wall showed when its last sample came: the time at which it is read here may be much later. */
  readonly at: number
  readonly samples: Float32Array
}

async function* stampedBlocks(readable: ReadableStream<AudioData>, origin: number): AsyncGenerator<HeardBlock> {
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

async function* countedBlocks(port: MessagePort, origin: number): AsyncGenerator<HeardBlock> {
  const clock = new ArrivalClock()
  const waiting: CountedBlock[] = []
  let wake: () => void = () => undefined
  port.onmessage = ({ data: block }: MessageEvent<CountedBlock>) => {
    waiting.push(block)
    wake()
  }
  for (;;) {
    const next = waiting.shift()
    if (next === undefined) {
      await new Promise<void>((resolve) => {
        wake = resolve
      })
      continue
    }
    const { first, rate, samples } = next
    yield { ...clock.take(next.at - origin, first, samples.length, rate), rate, samples }
  }
}

/** Reads a microphone's raw blocks in a worker, until its track ends. */
export const heardBlocks = (source: BlockSource): AsyncGenerator<HeardBlock> =>
  source.kind === 'stamped' ? stampedBlocks(source.readable, source.origin) : countedBlocks(source.port, source.origin)
