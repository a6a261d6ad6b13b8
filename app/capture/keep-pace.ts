import { WebmClock } from '@core/formats'
import type { Ms } from '@core/model'

/** A recording that is so far behind what is said has an encoder that does not keep up, in ms. */
const BEHIND: Ms = 600
/** Pictures a second that are asked of the camera instead, from one time to the next. */
const RATES = [15, 8] as const
/** How long a step is given to work before the next, in ms. */
const PATIENCE: Ms = 1500

/**
 * Keeps a recording near what is being said, so that little is lost when it is cut off. Voice and pictures wait for each other in it:
 * when another program takes this machine's time, pictures are given up first, never the voice.
 * @param began where the recording begins, on the page's clock
 */
export function keepPace(
  camera: MediaStreamTrack,
  began: number,
): { /** @returns how far the recording has come, in ms of it */ readonly chunk: (bytes: Uint8Array) => Ms; readonly end: () => void } {
  const clock = new WebmClock()
  let step = 0
  let asked = -Infinity
  return {
    chunk: (bytes) => {
      const now = performance.now()
      const reached = clock.feed(bytes)
      const rate = RATES[step]
      if (now - began - reached < BEHIND || rate === undefined || now - asked < PATIENCE) return reached
      asked = now
      step += 1
      void camera.applyConstraints({ ...camera.getConstraints(), frameRate: { max: rate } }).catch(() => undefined)
      return reached
    },
    // The next stretch begins with all of its pictures again.
    end: () => {
      if (step > 0 && camera.readyState === 'live')
        void camera.applyConstraints({ ...camera.getConstraints(), frameRate: { ideal: 30 } }).catch(() => undefined)
    },
  }
}
