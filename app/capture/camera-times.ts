import { median } from 'd3'

/**
 * Capture times of each camera's last pictures, in ms of the page's clock. A camera is watched from when it is opened: the first
 * pictures of a new watcher come too late.
 */
const times = new WeakMap<MediaStreamTrack, number[]>()
const REMEMBERED = 300

/** A picture's own stamp that is farther than this from when it was shown is on another clock, in ms. */
const SAME_CLOCK = 300

/**
 * When a picture came to whoever records it, in ms of the page's clock: recorders go by the capture time where there is one, and else
 * by that.
 */
const arrivalOf = ({ captureTime, presentationTime }: VideoFrameCallbackMetadata): number => captureTime ?? presentationTime

/**
 * When a picture was taken, in ms of the page's clock. Pictures that a script gives have no capture time: those that are stamped on the
 * page's clock have it in their stamp, others are shown a moment after they were drawn.
 */
export function takenAt({ captureTime, presentationTime, mediaTime }: VideoFrameCallbackMetadata): number {
  const stamp = mediaTime * 1000
  return captureTime ?? (Math.abs(stamp - presentationTime) < SAME_CLOCK ? stamp : presentationTime)
}

/** Of each camera's last pictures, when they were taken less their own stamps, in ms. */
const stamps = new WeakMap<MediaStreamTrack, number[]>()

function remember(all: WeakMap<MediaStreamTrack, number[]>, track: MediaStreamTrack, value: number): void {
  const known = all.get(track) ?? []
  known.push(value)
  if (known.length > REMEMBERED) known.splice(0, known.length - REMEMBERED)
  all.set(track, known)
}

/** Notes a picture that a camera took. */
export function noteFrame(track: MediaStreamTrack, about: VideoFrameCallbackMetadata): void {
  remember(times, track, arrivalOf(about))
  remember(stamps, track, takenAt(about) - about.mediaTime * 1000)
}

/**
 * What is added to the stamp of a camera's picture to have the time at which it was taken, on the page's clock; null before any was
 * seen.
 */
export function stampOffset(track: MediaStreamTrack): number | null {
  const known = stamps.get(track)
  return median(known ?? []) ?? null
}

const LOOK_EVERY = 50
const PATIENCE = 3000

/** When a camera took its first picture at or after a time; null when none came in three seconds. */
export async function firstFrame(track: MediaStreamTrack, since: number): Promise<number | null> {
  for (let waited = 0; waited < PATIENCE; waited += LOOK_EVERY) {
    const found = times.get(track)?.find((taken) => taken >= since)
    if (found !== undefined) return found
    await new Promise((resolve) => {
      setTimeout(resolve, LOOK_EVERY)
    })
  }
  return null
}

/** How many pictures a camera took between two times. */
export const framesSince = (track: MediaStreamTrack, from: number, to: number): number =>
  times.get(track)?.filter((taken) => taken >= from && taken < to).length ?? 0
