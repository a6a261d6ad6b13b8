import { CLAP_REACH } from '@core/voice'
import type { SeenFrame } from '@core/voice'
import { takenAt } from './camera-times'
import { rawBlocks } from './raw-blocks'

const SIZE = { width: 160, height: 90 }
/** Pictures that are remembered: those of two seconds and more. */
const REMEMBERED = 90
/** Sound is heard of a moment after it was captured, and so are pictures, in ms. */
const SETTLE = 300

export interface ClapFrame extends SeenFrame {
  readonly picture: ImageData
}

export interface Clap {
  /** When its sound began, in ms of the page's clock. */
  readonly heard: number
  /** The pictures around it, in order. */
  readonly frames: readonly ClapFrame[]
}

function changeBetween(before: ImageData | undefined, now: ImageData): number {
  if (before === undefined) return 0
  let sum = 0
  for (let n = 0; n < now.data.length; n += 4) sum += Math.abs((now.data[n + 1] ?? 0) - (before.data[n + 1] ?? 0))
  return sum / 255 / (now.data.length / 4)
}

/**
 * Waits for claps before a camera and a microphone.
 * @param tell is given each, with the pictures around it
 * @returns what ends it
 */
export function watchClaps(camera: MediaStreamTrack, mic: MediaStreamTrack, tell: (clap: Clap) => void): () => void {
  const raw = rawBlocks(mic)
  const worker = new Worker(new URL('./clap-worker.ts', import.meta.url), { type: 'module' })
  const video = document.createElement('video')
  Object.assign(video, { muted: true, playsInline: true, srcObject: new MediaStream([camera]) })
  const canvas = Object.assign(document.createElement('canvas'), SIZE)
  const ctx = canvas.getContext('2d', { willReadFrequently: true })
  let frames: readonly ClapFrame[] = []
  let frame = 0
  let ended = false
  const onFrame: VideoFrameRequestCallback = (_, about) => {
    if (ctx !== null) {
      ctx.drawImage(video, 0, 0, SIZE.width, SIZE.height)
      const picture = ctx.getImageData(0, 0, SIZE.width, SIZE.height)
      frames = [...frames, { at: takenAt(about), change: changeBetween(frames.at(-1)?.picture, picture), picture }].slice(-REMEMBERED)
    }
    frame = video.requestVideoFrameCallback(onFrame)
  }
  frame = video.requestVideoFrameCallback(onFrame)
  void video.play().catch(() => undefined)
  worker.onmessage = ({ data: heard }: MessageEvent<number>) => {
    setTimeout(
      () => {
        if (!ended) tell({ heard, frames: frames.filter((one) => Math.abs(one.at - heard) <= CLAP_REACH) })
      },
      Math.max(0, heard + CLAP_REACH + SETTLE - performance.now()),
    )
  }
  worker.postMessage(raw.source, raw.handOver)
  return () => {
    ended = true
    video.cancelVideoFrameCallback(frame)
    video.srcObject = null
    raw.end()
    worker.terminate()
  }
}
