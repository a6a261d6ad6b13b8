import type { Ms } from '@core/model'
import type { RestMessage } from './rest-watch'
import type { RestOrder } from './window-rest-worker'

/** A full-size picture of a window, and while it looked like that, in ms of its recording. */
export interface Still {
  readonly n: number
  readonly from: Ms
  /** null: it still does. */
  readonly until: Ms | null
  /** PNG. */
  readonly picture: ArrayBuffer
}

/**
 * Keeps what a window looks like whenever it rests, in full size, so that it is sharp however small it is recorded.
 * @param began where its recording begins, on the page's clock
 * @param keep is given each when it is made, and again when it is over
 * @returns what ends it, where the browser gives single pictures; the last is over then
 */
export function watchRest(picture: MediaStreamTrack, began: number, keep: (still: Still) => Promise<void>): () => Promise<void> {
  if (!('MediaStreamTrackProcessor' in globalThis)) return () => Promise.resolve()
  const track = picture.clone()
  const { readable } = new MediaStreamTrackProcessor({ track, maxBufferSize: 2 })
  const worker = new Worker(new URL('./window-rest-worker.ts', import.meta.url), { type: 'module' })
  const inRecording = (stamp: number): Ms => Math.max(0, Math.round(stamp - began))
  let open: Still | null = null
  let kept: Promise<void> = Promise.resolve()
  const put = (still: Still): void => {
    kept = kept.then(() => keep(still))
  }
  /** A rest that ended before it began here is none. */
  function over(until: Ms): void {
    if (open !== null && until > open.from) put({ ...open, until })
    open = null
  }
  worker.onmessage = ({ data }: MessageEvent<RestMessage>) => {
    if (data.kind === 'moves') over(inRecording(data.until))
    else {
      open = { n: data.n, from: inRecording(data.from), until: null, picture: data.picture }
      put(open)
    }
  }
  const order: RestOrder = { readable, origin: performance.timeOrigin }
  worker.postMessage(order, [readable])
  return async () => {
    over(inRecording(performance.now()))
    track.stop()
    worker.terminate()
    await kept
  }
}
