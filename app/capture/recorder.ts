import type { Ms } from '@core/model'

/** Length of a slice, in ms: what is lost at worst when the page is killed, and a little more. */
const SLICE = 250
const VIDEO_BITS = 2_500_000
const VOICE_BITS = 96_000

const hex = (bytes: ArrayBuffer): string => [...new Uint8Array(bytes)].map((byte) => byte.toString(16).padStart(2, '0')).join('')

export interface RecorderEvents {
  /** A slice, numbered from 0 on. Those that come while it is being kept wait their turn. */
  readonly onSlice: (n: number, bytes: ArrayBuffer, digest: string) => Promise<void>
  readonly onOffsets: (offsets: { readonly picture: number, readonly sound: number }) => void
  /** The recorder stopped, asked to or not. */
  readonly onEnded: () => void
  /** A slice could not be kept. */
  readonly onTrouble: (error: unknown) => void
}

export const recordingType = (camera: boolean): string => (camera ? 'video/webm;codecs=vp8,opus' : 'audio/webm;codecs=opus')

/** The first camera frame taken after `since`, in ms of the page's clock; null when the browser does not tell. */
function firstFrame(stream: MediaStream, since: number): Promise<number | null> {
  const video = document.createElement('video')
  video.muted = true
  video.srcObject = stream
  return new Promise((resolve) => {
    const give = setTimeout(() => { resolve(null) }, 3000)
    const look: VideoFrameRequestCallback = (_now, frame) => {
      const taken = frame.captureTime
      if (taken !== undefined && taken >= since) {
        clearTimeout(give)
        video.srcObject = null
        resolve(taken)
      } else {
        video.requestVideoFrameCallback(look)
      }
    }
    video.requestVideoFrameCallback(look)
    void video.play().catch(() => { resolve(null) })
  })
}

/** Records one stretch: voice and camera in one file, so that lips stay with the voice. */
export class StretchRecorder {
  readonly #recorder: MediaRecorder
  readonly #events: RecorderEvents
  #slices = 0
  #kept = 0
  #keeping: Promise<void> = Promise.resolve()
  #began = 0

  constructor(stream: MediaStream, camera: boolean, events: RecorderEvents) {
    this.#events = events
    this.#recorder = new MediaRecorder(stream, {
      mimeType: recordingType(camera), videoBitsPerSecond: VIDEO_BITS, audioBitsPerSecond: VOICE_BITS,
    })
    this.#recorder.ondataavailable = (event) => {
      if (event.data.size === 0) return
      const n = this.#slices
      this.#slices += 1
      // In order, so that what is kept never has a gap.
      this.#keeping = this.#keeping.then(async () => {
        const bytes = await event.data.arrayBuffer()
        await events.onSlice(n, bytes, hex(await crypto.subtle.digest('SHA-256', bytes)))
        this.#kept += 1
      }).catch((error: unknown) => { events.onTrouble(error) })
    }
    this.#recorder.onstop = () => { events.onEnded() }
  }

  /** Begins. All times of the stretch count from here, by the page's steady clock. */
  start(): void {
    this.#began = performance.now()
    this.#recorder.start(SLICE)
    const { stream } = this.#recorder
    if (stream.getVideoTracks().length === 0) return
    void firstFrame(stream, this.#began).then((taken) => {
      // The file's time begins with its first frame.
      if (taken !== null) this.#events.onOffsets({ picture: this.#began - taken, sound: 0 })
    })
  }

  /** Time in the stretch, in ms. @param stamp on the page's clock, such as an event's; now when left out */
  now(stamp: number = performance.now()): Ms {
    return Math.max(0, Math.round(stamp - this.#began))
  }

  /** Ends it. @returns how long it is and how many slices were kept, once they are */
  async stop(): Promise<{ readonly length: Ms, readonly slices: number }> {
    const length = this.now()
    if (this.#recorder.state !== 'inactive') {
      const ended = new Promise((resolve) => { this.#recorder.addEventListener('stop', resolve, { once: true }) })
      this.#recorder.stop()
      await ended
    }
    await this.#keeping
    return { length, slices: this.#kept }
  }
}
