import { WINDOW_RATE } from '@core/model'
import type { OpenWindow } from './open-window'
import { recordTrial } from './recorder'
import { scaleTrack } from './scaled-track'
import { watchFrames } from './watch-frames'

/** Lines that a window is recorded with, from one size to the next; the second is what any machine is thought to keep up with. */
const LINES = [1080, 720, 540] as const
const UNTRIED = LINES[1]
/** How long a trial lasts, and farthest that a recording may be behind by then, in ms. */
const TRIAL = 1500
const BEHIND = 500

/** A window that is open, with its pictures as they are recorded. */
export interface FittedWindow extends OpenWindow {
  /** Smaller than in full size where this machine does not keep up. */
  readonly recorded: MediaStreamTrack
  /** Lines that it is recorded with, by its last picture; null before the first. */
  readonly lines: () => number | null
}

/** Whether this machine keeps up with a window while it records a face and a voice; without those, with the window alone. */
async function keepsUp(window: MediaStreamTrack, devices: MediaStream | null, stop: AbortSignal): Promise<boolean> {
  const alone = recordTrial(new MediaStream([window]), TRIAL, stop)
  // What the window is behind says little beside them: one at rest gives nothing to be behind with.
  const [trial] = await Promise.all([devices === null ? alone : recordTrial(devices, TRIAL, stop), alone])
  return trial === null || trial.behind <= BEHIND
}

/**
 * Finds the size in which a window is recorded: as large as this machine keeps up with.
 * @param devices camera and microphone that are recorded beside it
 * @param tried whether there is time to try: not while a take runs
 */
export async function fitWindow(window: OpenWindow, devices: MediaStream | null, tried: boolean, stop: AbortSignal): Promise<FittedWindow> {
  const recorded = window.picture.clone()
  const watched = watchFrames(recorded)
  for (const lines of tried ? LINES : [UNTRIED]) {
    // One that cannot be made smaller is recorded as it is.
    await scaleTrack(recorded, { height: { max: lines }, frameRate: { max: WINDOW_RATE } }).catch(() => undefined)
    if (!tried || lines === LINES.at(-1) || (await keepsUp(recorded, devices, stop).catch(() => true))) break
  }
  return {
    ...window,
    recorded,
    lines: () => (watched.video.videoHeight === 0 ? null : watched.video.videoHeight),
    stop: () => {
      watched.stop()
      recorded.stop()
      window.stop()
    },
  }
}
