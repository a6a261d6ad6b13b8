import type { Ms } from '@core/model'
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

/** Records one stretch: voice and camera in one file, so that lips stay with the voice. All its times count from here, by the page's steady clock. */
export function runRecording(stream: MediaStream, camera: boolean, events: RecorderEvents): StretchRun {
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
      if (taken !== null) events.onOffsets({ picture: began - taken, sound: 0 })
    })
  }
  const [voice] = stream.getAudioTracks()
  const endPrints = voice === undefined ? null : takePrints(voice, began, events.onPrint)
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
