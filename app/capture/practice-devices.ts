import { paintSpeaker } from '@core/practice'
import type { PaintContext } from '@core/paint'
import type { Ms, Size } from '@core/model'
import { runningAudio } from './audio-context'
import type { SpeakerMessage } from './practice-speaker-worker'
import { workerDevice } from './worker-device'

const SIZE = { width: 640, height: 360 }
const RATE = 30

export interface PracticeMic {
  readonly stream: MediaStream
  /** 0 to 1, as it is now. */
  readonly loudness: () => number
  readonly stop: () => void
}

/** The practice microphone: a shipped voice, said over and over. */
export async function openPracticeMic(): Promise<PracticeMic> {
  const context = await runningAudio({ sampleRate: 48_000 })
  const bytes = await (await fetch('/practice/voice.ogg')).arrayBuffer()
  const source = new AudioBufferSourceNode(context, { buffer: await context.decodeAudioData(bytes), loop: true })
  const analyser = new AnalyserNode(context, { fftSize: 1024 })
  const out = new MediaStreamAudioDestinationNode(context, { channelCount: 1 })
  source.connect(analyser).connect(out)
  source.start()
  const samples = new Float32Array(analyser.fftSize)
  return {
    stream: out.stream,
    loudness: () => {
      analyser.getFloatTimeDomainData(samples)
      return Math.min(1, samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0) * 1.6)
    },
    stop: () => {
      source.stop()
      void context.close()
    },
  }
}

export interface PracticeCamera {
  readonly stream: MediaStream
  readonly stop: () => void
}

/** A camera whose pictures are drawn. @param draw one picture, `at` ms after it was opened */
export function drawnCamera(draw: (ctx: CanvasRenderingContext2D, size: Size, at: Ms) => void, size: Size = SIZE): PracticeCamera {
  const canvas = document.createElement('canvas')
  canvas.width = size.width
  canvas.height = size.height
  const context = canvas.getContext('2d')
  if (context === null) throw new Error('this browser draws no canvas')
  const began = performance.now()
  const next = (): void => {
    draw(context, size, performance.now() - began)
  }
  next()
  const stream = canvas.captureStream(RATE)
  const timer = setInterval(next, 1000 / RATE)
  return {
    stream,
    stop: () => {
      clearInterval(timer)
      for (const track of stream.getTracks()) track.stop()
    },
  }
}

/** How often the worker that draws is told how loud it is, in ms. */
const TELL_EVERY = 50

/** The practice camera: a drawn speaker. @param loudness moves the mouth */
export function openPracticeCamera(loudness: () => number): PracticeCamera {
  // In a worker, where the browser lets it: a page that draws ink has other things to do.
  const device = workerDevice('video', (writable) => {
    const worker = new Worker(new URL('./practice-speaker-worker.ts', import.meta.url), { type: 'module' })
    const begin: SpeakerMessage = { kind: 'begin', writable, origin: performance.timeOrigin, size: SIZE, fps: RATE }
    worker.postMessage(begin, [writable])
    return worker
  })
  if (device === null) {
    return drawnCamera((ctx, size, at) => {
      const paint: PaintContext<CanvasImageSource> = ctx
      paintSpeaker(paint, size, at, loudness())
    })
  }
  const { stream, worker, stop } = device
  const timer = setInterval(() => {
    const louder: SpeakerMessage = { kind: 'loudness', loudness: loudness() }
    worker.postMessage(louder)
  }, TELL_EVERY)
  return {
    stream,
    stop: () => {
      clearInterval(timer)
      stop()
    },
  }
}
