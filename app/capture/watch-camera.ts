import { watchFrames } from './watch-frames'

/** How often a camera is looked at, in ms. */
const LOOK_EVERY = 500
/** Darker than this on average, 0 to 255, a picture shows nothing. */
const DARK = 10
const SAMPLE = { width: 16, height: 9 }

export interface CameraState {
  /** When its last picture came, on the page's clock; null before the first. */
  readonly seen: number | null
  /** Whether its pictures are black. */
  readonly dark: boolean
}

/** Watches whether a camera gives pictures, and whether they show anything. @returns what stops it */
export function watchCamera(track: MediaStreamTrack, tell: (state: CameraState) => void): () => void {
  const canvas = document.createElement('canvas')
  Object.assign(canvas, SAMPLE)
  const ctx = canvas.getContext('2d', { willReadFrequently: true })
  let seen: number | null = null
  const { video, stop } = watchFrames(track, (now) => {
    seen = now
  })
  const timer = setInterval(() => {
    if (ctx === null || seen === null) {
      tell({ seen, dark: false })
      return
    }
    ctx.drawImage(video, 0, 0, SAMPLE.width, SAMPLE.height)
    const { data } = ctx.getImageData(0, 0, SAMPLE.width, SAMPLE.height)
    let sum = 0
    for (let n = 0; n < data.length; n += 4) sum += (data[n] ?? 0) + (data[n + 1] ?? 0) + (data[n + 2] ?? 0)
    tell({ seen, dark: sum / (3 * SAMPLE.width * SAMPLE.height) < DARK })
  }, LOOK_EVERY)
  return () => {
    clearInterval(timer)
    stop()
  }
}
