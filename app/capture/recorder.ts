import type { Ms } from '@core/model'
import type { Lateness } from '@core/voice'
import { firstFrame } from './camera-times'
import type { Print } from './print-worker'
import { takePrints } from './voice-prints'

/** Length of a slice, in ms: what is lost at worst when the page is killed, and a little more. */
export const SLICE = 250
const VIDEO_BITS = 2_500_000
const VOICE_BITS = 96_000

const hex = (bytes: ArrayBuffer): string => [...new Uint8Array(bytes)].map((byte) => byte.toString(16).padStart(2, '0')).join('')

export interface RecorderEvents {
  /** A slice, numbered from 0 on. Those that come while it is being kept wait their turn. */
  readonly onSlice: (n: number, slice: Blob, bytes: ArrayBuffer, digest: string) => Promise<void>
  readonly onOffsets: (offsets: { readonly picture: number, readonly sound: number }) => void
  /** A piece of the voice with the time at which it was captured. */
  readonly onPrint: (print: Print) => void
  /** The microphone now gives another number of samples a second; see `takePrints`. */
  readonly onRate: () => void
  /** The recorder stopped, asked to or not. */
  readonly onEnded: () => void
  /** A slice could not be kept. */
  readonly onTrouble: (error: unknown) => void
}

/** What runs a stretch: its clock, and its recording if it has one. */
export interface StretchRun {
  /** Where the stretch's time begins, on the page's clock. */
  readonly began: number
  /** Time in the stretch, in ms. @param stamp on the page's clock, such as an event's; now when left out */
  now: (stamp?: number) => Ms
  /** Ends it. @param stamp when it ends; now when left out @returns how long it is and how many slices were kept, once they are */
  stop: (stamp?: number) => Promise<{ readonly length: Ms, readonly slices: number }>
}

export const recordingType = (camera: boolean): string => (camera ? 'video/webm;codecs=vp8,opus' : 'audio/webm;codecs=opus')

const since = (began: number, stamp: number): Ms => Math.max(0, Math.round(stamp - began))

/** A stretch of timings and ink alone. */
export function runSilently(): StretchRun {
  const began = performance.now()
  const now = (stamp: number = performance.now()): Ms => since(began, stamp)
  return { began, now, stop: (stamp) => Promise.resolve({ length: now(stamp), slices: 0 }) }
}

/**
 * Records one stretch: voice and camera in one file, so that lips stay with the voice. All its times count from here, by the page's steady clock.
 * @param late how late its devices are known to be; taken off when the stretch is closed
 */
export function runRecording(stream: MediaStream, camera: boolean, late: Lateness, events: RecorderEvents): StretchRun {
  let count = 0
  let kept = 0
  let keeping = Promise.resolve()
  const recorder = new MediaRecorder(stream, { mimeType: recordingType(camera), videoBitsPerSecond: VIDEO_BITS, audioBitsPerSecond: VOICE_BITS })
  recorder.ondataavailable = (event) => {
    if (event.data.size === 0) return
    const n = count
    count += 1
    // In order, so that what is kept never has a gap.
    keeping = keeping.then(async () => {
      const bytes = await event.data.arrayBuffer()
      await events.onSlice(n, event.data, bytes, hex(await crypto.subtle.digest('SHA-256', bytes)))
      kept += 1
    }).catch((error: unknown) => { events.onTrouble(error) })
  }
  recorder.onstop = events.onEnded

  const began = performance.now()
  recorder.start(SLICE)
  const [film] = stream.getVideoTracks()
  if (camera && film !== undefined) {
    void firstFrame(film, began).then((taken) => {
      // The file's time begins with its first frame.
      events.onOffsets({ picture: (taken === null ? 0 : began - taken) + late.camera, sound: late.mic })
    })
  } else if (late.mic > 0) events.onOffsets({ picture: 0, sound: late.mic })
  const [voice] = stream.getAudioTracks()
  const endPrints = voice === undefined ? null : takePrints(voice, began, events)
  const now = (stamp: number = performance.now()): Ms => since(began, stamp)
  return {
    began, now,
    stop: async (stamp) => {
      const length = now(stamp)
      if (recorder.state !== 'inactive') {
        const ended = new Promise((resolve) => { recorder.addEventListener('stop', resolve, { once: true }) })
        recorder.stop()
        await ended
      }
      await Promise.all([keeping, endPrints?.()])
      return { length, slices: kept }
    },
  }
}

/** Records a moment, only to see how that goes. @param length in ms @param stop ends it early @returns null when it was ended early */
export async function recordTrial(stream: MediaStream, length: number, stop: AbortSignal): Promise<Uint8Array | null> {
  if (stop.aborted) return null
  const recorder = new MediaRecorder(stream, { mimeType: recordingType(true), videoBitsPerSecond: VIDEO_BITS, audioBitsPerSecond: VOICE_BITS })
  const parts: Blob[] = []
  recorder.ondataavailable = (event) => { parts.push(event.data) }
  const ended = new Promise((resolve) => { recorder.onstop = resolve })
  const end = (): void => { if (recorder.state !== 'inactive') recorder.stop() }
  stop.addEventListener('abort', end, { once: true })
  recorder.start(SLICE)
  const timer = setTimeout(end, length)
  await ended
  clearTimeout(timer)
  return stop.aborted ? null : new Uint8Array(await new Blob(parts).arrayBuffer())
}
