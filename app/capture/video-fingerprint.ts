import { MOST_PICTURES } from '@core/camera'
import type { SmallPicture } from '@core/camera'
import type { Ms } from '@core/model'
import { stampOffset, takenAt } from './camera-times'
import type { FaceOrder, StampedPicture } from './video-fingerprint-worker'
import { smallPictures } from './small-pictures'

/** For how long a stretch's first pictures are looked at, in ms. */
const LENGTH = 3900
/** Pictures that wait while the worker begins; cameras have few to give at a time. */
const BUFFER = 4
/** How long the pictures that there are are waited for when a stretch ends early, in ms. */
const PATIENCE = 400
/** A picture comes at most so long after it was taken, and hardly before, in ms; else its stamp is on another clock than was thought. */
const MOST_ON_ITS_WAY = 1500
const SAME_CLOCK = 50

/** Takes pictures as the page is shown them, where the browser does not give them one by one. @returns as `takeVideoFingerprint` does */
function watchShown(
  camera: MediaStreamTrack,
  began: number,
  late: Ms,
  keep: (pictures: readonly SmallPicture[]) => Promise<void>,
): () => Promise<void> {
  const video = document.createElement('video')
  Object.assign(video, { muted: true, playsInline: true, srcObject: new MediaStream([camera]) })
  const small = smallPictures()
  const pictures: SmallPicture[] = []
  let kept: Promise<void> | null = null
  const end = (): Promise<void> => {
    video.srcObject = null
    kept ??= keep(pictures)
    return kept
  }
  const onFrame: VideoFrameRequestCallback = (_, about) => {
    const at = takenAt(about)
    pictures.push({ at: at - began - late, pixels: small(video) })
    if (pictures.length < MOST_PICTURES && at < began + LENGTH) video.requestVideoFrameCallback(onFrame)
    else void end()
  }
  video.requestVideoFrameCallback(onFrame)
  void video.play().catch(() => undefined)
  return end
}

/**
 * Keeps the first pictures of a stretch, very small, with the times at which they were taken. With them the server finds where the
 * recorded pictures really lie: nobody says which picture stands first in a recording.
 * @param began where the stretch's time begins, on the page's clock
 * @param late how late the camera is known to be, in ms: taken off the times
 * @param keep is given them once, in order; the stretch does not end before they are kept
 * @returns what ends it early, with as many as there are by then
 */
export function takeVideoFingerprint(
  camera: MediaStreamTrack,
  began: number,
  late: Ms,
  keep: (pictures: readonly SmallPicture[]) => Promise<void>,
): () => Promise<void> {
  if (!('MediaStreamTrackProcessor' in globalThis)) return watchShown(camera, began, late, keep)
  const track = camera.clone()
  const { readable } = new MediaStreamTrackProcessor({ track, maxBufferSize: BUFFER })
  const worker = new Worker(new URL('./video-fingerprint-worker.ts', import.meta.url), { type: 'module' })
  const done = new Promise<void>((resolve) => {
    worker.onmessage = ({ data: pictures }: MessageEvent<readonly StampedPicture[]>) => {
      end()
      const offset = stampOffset(camera)
      const timed = offset === null ? [] : pictures.map(({ at, came, pixels }) => ({ at: at + offset, came, pixels }))
      const believed = timed.length > 0 && timed.every(({ at, came }) => came - at > -SAME_CLOCK && came - at < MOST_ON_ITS_WAY)
      void (believed ? keep(timed.map(({ at, pixels }) => ({ at: at - began - late, pixels }))) : Promise.resolve()).finally(resolve)
    }
  })
  const end = (): void => {
    track.stop()
    worker.terminate()
  }
  const order: FaceOrder = { readable, origin: performance.timeOrigin, until: began + LENGTH }
  worker.postMessage(order, [readable])
  return async () => {
    worker.postMessage('end')
    await Promise.race([
      done,
      new Promise((resolve) => {
        setTimeout(resolve, PATIENCE)
      }),
    ])
    end()
  }
}
