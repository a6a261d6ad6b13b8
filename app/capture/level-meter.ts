import { toDb } from '@core/voice'

export interface Level {
  /** dBFS */
  readonly peak: number
  readonly rms: number
}

/** Watches a microphone's level until it is stopped. */
export async function watchLevel(stream: MediaStream, hear: (level: Level) => void): Promise<() => void> {
  const context = new AudioContext()
  await context.audioWorklet.addModule('/level-worklet.js')
  const meter = new AudioWorkletNode(context, 'level-meter', { numberOfOutputs: 0 })
  meter.port.onmessage = (message: MessageEvent<{ peak: number, rms: number }>) => {
    hear({ peak: toDb(message.data.peak), rms: toDb(message.data.rms) })
  }
  new MediaStreamAudioSourceNode(context, { mediaStream: stream }).connect(meter)
  void context.resume()
  return () => { void context.close() }
}
