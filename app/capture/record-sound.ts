import type { Ms } from '@core/model'
import { recordingType } from './recorder'

/** What was recorded of a microphone: to be heard, and its samples to be measured. */
export interface RecordedSound {
  readonly blob: Blob
  /** 16 bits, 48,000 a second. */
  readonly samples: Int16Array
}

const SAMPLE_RATE = 48_000
const FULL = 32_767

async function samplesIn(blob: Blob): Promise<Int16Array> {
  const context = new OfflineAudioContext({ numberOfChannels: 1, length: 1, sampleRate: SAMPLE_RATE })
  const decoded = await context.decodeAudioData(await blob.arrayBuffer())
  return Int16Array.from(decoded.getChannelData(0), (sample) => Math.max(-FULL, Math.min(FULL, Math.round(sample * FULL))))
}

/**
 * Records microphones side by side, all from one moment on, as a take would record each.
 * @param tracks of sound @param length in ms
 * @param signal ends it early; then nothing is recorded
 * @throws what the browser throws when it cannot decode what it recorded
 */
export async function recordTogether(
  tracks: readonly MediaStreamTrack[],
  length: Ms,
  signal: AbortSignal,
): Promise<readonly RecordedSound[]> {
  const type = recordingType(false)
  const recordings = tracks.map((track) => {
    const recorder = new MediaRecorder(new MediaStream([track]), { mimeType: type })
    const parts: Blob[] = []
    recorder.ondataavailable = (event) => {
      parts.push(event.data)
    }
    const ended = new Promise<Blob>((resolve) => {
      recorder.onstop = () => {
        resolve(new Blob(parts, { type }))
      }
    })
    return { recorder, ended }
  })
  for (const { recorder } of recordings) recorder.start()
  await new Promise<void>((resolve) => {
    const timer = setTimeout(resolve, length)
    signal.addEventListener('abort', () => {
      clearTimeout(timer)
      resolve()
    })
  })
  for (const { recorder } of recordings) if (recorder.state !== 'inactive') recorder.stop()
  const blobs = await Promise.all(recordings.map(({ ended }) => ended))
  signal.throwIfAborted()
  return await Promise.all(blobs.map(async (blob) => ({ blob, samples: await samplesIn(blob) })))
}
