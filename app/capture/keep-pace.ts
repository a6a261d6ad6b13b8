import { WebmClock } from '@core/formats'
import { WINDOW_RATE } from '@core/model'
import type { Ms } from '@core/model'
import { firstPace, paceAfter, pacedRate } from './pace-steps'
import type { PaceRules } from './pace-steps'

const CAMERA_PACE: PaceRules = { behind: 600, rates: [15, 8], usual: 30, byPictures: false, recovers: null }
/** Pictures of a window are given up before those of a face, and asked for again when there is time. */
const WINDOW_PACE: PaceRules = { behind: 420, rates: [8, 4, 2], usual: WINDOW_RATE, byPictures: true, recovers: 4000 }

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
): {
  /** @param came when the recorder gave it, on the page's clock @returns how far the recording has come, in ms of it */
  readonly chunk: (bytes: Uint8Array, came: number) => Ms
  readonly end: () => void
} {
  const rules = what === 'camera' ? CAMERA_PACE : WINDOW_PACE
  const clock = new WebmClock()
  let state = firstPace(rules)
  /** A recording of pictures alone begins with its first, which comes when it comes: that much is no lag. */
  let least = rules.byPictures ? Infinity : 0
  function ask(rate: number): void {
    // All pictures again is a wish: a camera may have others.
    const frameRate = rate === rules.usual ? { ideal: rate } : { max: rate }
    void track.applyConstraints({ ...track.getConstraints(), frameRate }).catch(() => undefined)
  }
  return {
    chunk: (bytes, came) => {
      const reached = clock.feed(bytes)
      const before = pacedRate(rules, state)
      const lag = came - began - reached
      least = Math.min(least, lag)
      state = paceAfter(rules, state, lag - least, came)
      const rate = pacedRate(rules, state)
      if (rate !== before) ask(rate)
      return reached
    },
    // The next stretch begins with all of its pictures again.
    end: () => {
      if (state.step > 0 && track.readyState === 'live') ask(rules.usual)
    },
  }
}
