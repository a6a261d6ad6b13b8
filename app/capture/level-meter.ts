import { toDb } from '@core/voice'
import { runningAudio } from './audio-context'

export interface Level {
  /** dBFS */
  readonly peak: number
  readonly rms: number
}

/**
 * Watches a microphone's level until it is stopped.
 * @returns what stops it
 * @throws Refusal `unavailable` where this browser does not measure sound
 */
export async function watchLevel(stream: MediaStream, hear: (level: Level) => void): Promise<() => void> {
  const context = await runningAudio()
  await context.audioWorklet.addModule('/level-worklet.js')
  const meter = new AudioWorkletNode(context, 'level-meter', { numberOfOutputs: 0 })
  meter.port.onmessage = (message: MessageEvent<{ peak: number; rms: number }>) => {
    hear({ peak: toDb(message.data.peak), rms: toDb(message.data.rms) })
  }
  new MediaStreamAudioSourceNode(context, { mediaStream: stream }).connect(meter)
  return () => {
    void context.close()
  }
}
