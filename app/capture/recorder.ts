import { WebmClock } from '@core/formats'
import type { SmallPicture } from '@core/camera'
import { Refusal } from '@core/model'
import type { Ms } from '@core/model'
import type { DeviceLatency } from '@core/voice'
import { firstFrame } from './camera-times'
import { takeVideoFingerprint } from './video-fingerprint'
import { keepPace } from './keep-pace'
import type { Print } from './audio-fingerprint-worker'
import { takeFingerprints } from './audio-fingerprints'

/** Length of a chunk, in ms: what is lost at worst when the page is killed, and a little more. */
export const CHUNK_MS = 250
const VIDEO_BITS = 2_500_000
const VOICE_BITS = 96_000

const hex = (bytes: ArrayBuffer): string => [...new Uint8Array(bytes)].map((byte) => byte.toString(16).padStart(2, '0')).join('')

/** A piece of a recording as its recorder gave it. */
export interface Chunk {
  readonly n: number
  readonly blob: Blob
  readonly bytes: ArrayBuffer
  readonly digest: string
}

export interface RecorderEvents {
  /** Chunks in order, numbered from 0 on. Those that come while they are being kept wait their turn. */
  readonly onChunks: (chunks: readonly Chunk[]) => Promise<void>
  /**
   * Its first pictures, small, with the times at which they were taken in ms of the stretch, what is known of the camera's lateness
   * taken off.
   */
  readonly onFace: (pictures: readonly SmallPicture[]) => Promise<void>
  readonly onOffsets: (offsets: { readonly picture: number; readonly sound: number }) => void
  /** A piece of the voice with the time at which it was captured. */
  readonly onFingerprint: (print: Print) => void
  /** The microphone now gives another number of samples a second; see `takeFingerprints`. */
  readonly onRate: () => void
  /** The recorder stopped, asked to or not. */
  readonly onEnded: () => void
  /** A chunk, or what was said last, could not be kept. */
  readonly onTrouble: (error: unknown) => void
}

/** What runs a stretch: its clock, and its recording if it has one. */
export interface StretchRun {
  /** Where the stretch's time begins, on the page's clock. */
  readonly began: number
  /** Time in the stretch, in ms. @param stamp on the page's clock, such as an event's; now when left out */
  now: (stamp?: number) => Ms
  /** Ends it. @param stamp when it ends; now when left out @returns how long it is and how many chunks were kept, once they are */
  stop: (stamp?: number) => Promise<{ readonly length: Ms; readonly chunks: number }>
}

export const recordingType = (camera: boolean): string => (camera ? 'video/webm;codecs=vp8,opus' : 'audio/webm;codecs=opus')

/** Whether this browser records what a take is kept in. */
export const canRecord = (): boolean => 'MediaRecorder' in globalThis && MediaRecorder.isTypeSupported(recordingType(true))

/** @throws Refusal `unavailable` when this browser cannot record, with what to do */
export function requireRecorder(): void {
  if (canRecord() && 'locks' in navigator) return
  throw new Refusal(
    'unavailable',
    'This browser does not record WebM with VP8 and Opus, so nothing can be recorded in it. Bring it up to date, or use another ' +
      'one; the self-test says what is missing.',
  )
}

const since = (began: number, stamp: number): Ms => Math.max(0, Math.round(stamp - began))

/** A stretch of timings and ink alone. */
export function runSilently(): StretchRun {
  const began = performance.now()
  const now = (stamp: number = performance.now()): Ms => since(began, stamp)
  return { began, now, stop: (stamp) => Promise.resolve({ length: now(stamp), chunks: 0 }) }
}

/** What is recorded into one file. */
export interface RecordedFrom {
  readonly stream: MediaStream
  /** What its pictures are of; null: there are none. */
  readonly pictures: 'camera' | 'window' | null
  /** How late its devices are known to be; taken off when the stretch is closed. */
  readonly late: DeviceLatency
}

/**
 * Records one stretch: voice and camera in one file, so that lips stay with the voice; or a window with its sound. All its times count
 * from here, by the page's steady clock.
 * @param id of the stretch
 */
export function runRecording(id: string, { stream, pictures, late }: RecordedFrom, events: RecorderEvents): StretchRun {
  let kept = 0
  /** What the recorder gave, and when. */
  let waiting: readonly { readonly blob: Blob; readonly came: number }[] = []
  let keeping: Promise<void> | null = null
  let broken = false
  const recorder = new MediaRecorder(stream, {
    mimeType: recordingType(pictures !== null),
    videoBitsPerSecond: VIDEO_BITS,
    audioBitsPerSecond: VOICE_BITS,
  })

  /** Keeps what waits, in order, so that what is kept never has a gap; all that came meanwhile goes together. */
  async function keepWaiting(): Promise<void> {
    while (waiting.length > 0) {
      const given = waiting
      waiting = []
      const chunks = await Promise.all(
        given.map(async ({ blob }, n): Promise<Chunk> => {
          const bytes = await blob.arrayBuffer()
          return { n: kept + n, blob, bytes, digest: hex(await crypto.subtle.digest('SHA-256', bytes)) }
        }),
      )
      // How long it waited here to be kept is nothing that its encoder is behind.
      const reached = chunks.reduce((to, { bytes }, n) => pace?.chunk(new Uint8Array(bytes), given[n]?.came ?? 0) ?? to, 0)
      await events.onChunks(chunks)
      reading?.reached(reached)
      kept += chunks.length
    }
  }
  recorder.ondataavailable = (event) => {
    if (event.data.size === 0 || broken) return
    waiting = [...waiting, { blob: event.data, came: performance.now() }]
    keeping ??= keepWaiting()
      .catch((error: unknown) => {
        // What comes after a piece that is missing could not be played.
        broken = true
        events.onTrouble(error)
      })
      .finally(() => {
        keeping = null
      })
  }
  recorder.onstop = events.onEnded

  const began = performance.now()
  recorder.start(CHUNK_MS)
  const [film] = stream.getVideoTracks()
  const pace = pictures !== null && film !== undefined ? keepPace(film, began, pictures) : null
  if (pictures !== null && film !== undefined) {
    // The file's time begins with its first frame: said here as well as it can be, and measured by the server if the pictures say it.
    void firstFrame(film, began).then((taken) => {
      events.onOffsets({ picture: (taken === null ? 0 : began - taken) + late.camera, sound: late.mic })
    })
  } else if (late.mic > 0) events.onOffsets({ picture: 0, sound: late.mic })
  const endFace = pictures !== null && film !== undefined ? takeVideoFingerprint(film, began, late.camera, events.onFace) : null
  const [voice] = stream.getAudioTracks()
  // Nobody's voice is looked for in a window; a voice alone does not wait for anything.
  const reading =
    voice === undefined || pictures === 'window' ? null : takeFingerprints(voice, began, pictures === 'camera' ? id : null, events)
  const now = (stamp: number = performance.now()): Ms => since(began, stamp)
  return {
    began,
    now,
    stop: async (stamp) => {
      const length = now(stamp)
      if (recorder.state !== 'inactive') {
        const ended = new Promise((resolve) => {
          recorder.addEventListener('stop', resolve, { once: true })
        })
        recorder.stop()
        await ended
      }
      pace?.end()
      await Promise.all([keeping, reading?.end(), endFace?.()])
      return { length, chunks: kept }
    },
  }
}

/** What a moment that was recorded for trial says. */
export interface Trial {
  readonly bytes: Uint8Array
  /** How far the recording was behind what was said when it was ended, in ms. */
  readonly behind: Ms
}

/** Records a moment, only to see how that goes. @param length in ms @param stop ends it early @returns null when it was ended early */
export async function recordTrial(stream: MediaStream, length: Ms, stop: AbortSignal): Promise<Trial | null> {
  if (stop.aborted) return null
  const recorder = new MediaRecorder(stream, {
    mimeType: recordingType(true),
    videoBitsPerSecond: VIDEO_BITS,
    audioBitsPerSecond: VOICE_BITS,
  })
  const parts: Blob[] = []
  let inTime = 0
  recorder.ondataavailable = (event) => {
    parts.push(event.data)
    // What comes once it has been told to stop, it had not caught up with.
    if (recorder.state === 'recording') inTime = parts.length
  }
  const ended = new Promise((resolve) => {
    recorder.onstop = resolve
  })
  const end = (): void => {
    if (recorder.state !== 'inactive') recorder.stop()
  }
  stop.addEventListener('abort', end, { once: true })
  recorder.start(CHUNK_MS)
  const timer = setTimeout(end, length)
  await ended
  clearTimeout(timer)
  if (stop.aborted) return null
  const reached = new WebmClock().feed(new Uint8Array(await new Blob(parts.slice(0, inTime)).arrayBuffer()))
  return { bytes: new Uint8Array(await new Blob(parts).arrayBuffer()), behind: length - reached }
}
