import { WebmClock } from '@core/formats'
import { WINDOW_RATE } from '@core/model'
import type { Ms } from '@core/model'

/** When pictures are given up. */
interface Pace {
  /** A recording that is so far behind what is said has an encoder that does not keep up, in ms. */
  readonly behind: Ms
  /** Pictures a second that are asked for instead, from one time to the next; and those that are asked for at first. */
  readonly rates: readonly number[]
  readonly usual: number
}

const CAMERA_PACE: Pace = { behind: 600, rates: [15, 8], usual: 30 }
/** Pictures of a window are given up before those of a face. */
const WINDOW_PACE: Pace = { behind: 420, rates: [8, 4, 2], usual: WINDOW_RATE }
/** How long a step is given to work before the next, in ms. */
const PATIENCE: Ms = 1500

/**
 * Keeps a recording near what is being said, so that little is lost when it is cut off. Voice and pictures wait for each other in it:
 * when another program takes this machine's time, pictures are given up first, never the voice.
 * @param began where the recording begins, on the page's clock
 * @param what its pictures are of
 */
export function keepPace(
  track: MediaStreamTrack,
  began: number,
  what: 'camera' | 'window',
): { /** @returns how far the recording has come, in ms of it */ readonly chunk: (bytes: Uint8Array) => Ms; readonly end: () => void } {
  const { behind, rates, usual } = what === 'camera' ? CAMERA_PACE : WINDOW_PACE
  const clock = new WebmClock()
  let step = 0
  let asked = -Infinity
  return {
    chunk: (bytes) => {
      const now = performance.now()
      const reached = clock.feed(bytes)
      const rate = rates[step]
      // Where there may be no sound, the recording has only come as far as the last picture.
      const between = what === 'window' ? 1000 / (rates[step - 1] ?? usual) : 0
      if (now - began - reached < behind + between || rate === undefined || now - asked < PATIENCE) return reached
      asked = now
      step += 1
      void track.applyConstraints({ ...track.getConstraints(), frameRate: { max: rate } }).catch(() => undefined)
      return reached
    },
    // The next stretch begins with all of its pictures again.
    end: () => {
      if (step > 0 && track.readyState === 'live')
        void track.applyConstraints({ ...track.getConstraints(), frameRate: { ideal: usual } }).catch(() => undefined)
    },
  }
}
