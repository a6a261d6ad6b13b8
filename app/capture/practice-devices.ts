import { paintSpeaker } from '@core/practice'
import type { PaintContext } from '@core/paint'

const SIZE = { width: 1280, height: 720 }
const RATE = 30

export interface PracticeMic {
  readonly stream: MediaStream
  /** 0 to 1, as it is now. */
  readonly loudness: () => number
  readonly stop: () => void
}

/** The practice microphone: a shipped voice, said over and over. */
export async function openPracticeMic(): Promise<PracticeMic> {
  const context = new AudioContext({ sampleRate: 48_000 })
  await context.resume()
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

/** The practice camera: a drawn speaker. @param loudness moves the mouth */
export function openPracticeCamera(loudness: () => number): { readonly stream: MediaStream, readonly stop: () => void } {
  const canvas = document.createElement('canvas')
  canvas.width = SIZE.width
  canvas.height = SIZE.height
  const context = canvas.getContext('2d')
  if (context === null) throw new Error('this browser draws no canvas')
  const paint: PaintContext<CanvasImageSource> = context
  const began = performance.now()
  const draw = (): void => { paintSpeaker(paint, SIZE, performance.now() - began, loudness()) }
  draw()
  const stream = canvas.captureStream(RATE)
  const timer = setInterval(draw, 1000 / RATE)
  return {
    stream,
    stop: () => {
      clearInterval(timer)
      for (const track of stream.getTracks()) track.stop()
    },
  }
}
