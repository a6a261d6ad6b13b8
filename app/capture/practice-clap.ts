import { ArrivalClock } from './arrival-clock'
import { runningAudio } from './audio-context'
import { hiss } from './hiss'
import type { ClapDevice } from './practice-clap-worker'
import { drawnCamera } from './practice-devices'
import type { PracticeCamera, PracticeMic } from './practice-devices'
import { workerDevice } from './worker-device'
import type { WorkerDevice } from './worker-device'

/** A device that keeps time by the machine's clock in a worker of its own, where the browser lets one be made. */
const steadyDevice = (kind: ClapDevice['kind']): WorkerDevice | null =>
  workerDevice(kind === 'mic' ? 'audio' : 'video', (writable) => {
    const worker = new Worker(new URL('./practice-clap-worker.ts', import.meta.url), { type: 'module' })
    const device: ClapDevice = { kind, writable, origin: performance.timeOrigin }
    worker.postMessage(device, [writable])
    return worker
  })

/** Time from one clap to the next, and how long each is seen and heard, in seconds. */
const EVERY = 2
const SEEN = 0.13
const HEARD = 0.02
/**
 * How long a drawn picture waits until it is taken, in seconds: on the mean half a period of the drawing and half a period of the
 * taking.
 */
const PICTURE_WAITS = 1 / 30

/** The clock that both go by, and when on it the first clap was, in seconds. */
let clapping: { readonly context: AudioContext; readonly first: number; readonly arrivals: ArrivalClock } | null = null

/**
 * How long ago the last clap began, in seconds; negative before the first. A page sees the time of sound move in steps, late by more or
 * less.
 */
function sinceClap(): number {
  if (clapping === null) return -1
  const { context, first, arrivals } = clapping
  const [seen, heard] = [performance.now(), context.currentTime]
  const { at } = arrivals.take(seen, Math.round(heard * context.sampleRate), 0, context.sampleRate)
  return (heard + (seen - at) / 1000 - first) % EVERY
}

/** A microphone that hears a click every two seconds. */
export async function openClapMic(): Promise<PracticeMic> {
  const steady = steadyDevice('mic')
  if (steady !== null) return { ...steady, loudness: () => 0 }
  // At the browser's own rate: at another one its sound would go through a second audio graph, which takes time.
  const context = await runningAudio()
  const buffer = new AudioBuffer({ length: EVERY * context.sampleRate, sampleRate: context.sampleRate })
  const samples = buffer.getChannelData(0)
  const noise = hiss()
  // Loud at the click and like a room after it.
  for (let n = 0; n < samples.length; n += 1) samples[n] = noise() * (n < HEARD * context.sampleRate ? 0.7 : 0.02)
  const source = new AudioBufferSourceNode(context, { buffer, loop: true })
  const out = new MediaStreamAudioDestinationNode(context, { channelCount: 1 })
  source.connect(out)
  const first = context.currentTime + 0.1
  source.start(first)
  clapping = { context, first, arrivals: new ArrivalClock() }
  return {
    stream: out.stream,
    loudness: () => 0,
    stop: () => {
      source.stop()
      clapping = null
      void context.close()
    },
  }
}

/** A camera that sees a flash whenever that microphone hears its click. */
export const openClapCamera = (): PracticeCamera =>
  steadyDevice('camera') ??
  drawnCamera((ctx, size) => {
    const since = sinceClap() + PICTURE_WAITS
    ctx.fillStyle = since >= 0 && since < SEEN ? '#FFFFFF' : '#20406E'
    ctx.fillRect(0, 0, size.width, size.height)
  })
