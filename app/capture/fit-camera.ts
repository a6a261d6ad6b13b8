import { framesInWebm } from '@core/formats'
import type { Size } from '@core/model'
import { framesSince } from './camera-times'
import { recordTrial } from './recorder'
import { scaleTrack } from './scaled-track'

/** Sizes a camera steps down by when this machine's encoder cannot keep up. */
const SIZES: readonly Size[] = [
  { width: 1280, height: 720 },
  { width: 960, height: 540 },
  { width: 640, height: 360 },
]
/** How long a trial lasts, in ms, and which part of the camera's pictures it must have kept. */
const TRIAL = 2500
const KEPT = 0.85
/** Farthest that the recording may be behind by then, in ms: as much is lost when a take is cut off. */
const BEHIND = 700
/** A camera that gives fewer pictures than this a second is not tried: what is lost in the dark is not the encoder's fault. */
const FEWEST = 8

/** Whether a camera gives so few pictures that nothing can be said of the encoder. @param time in ms */
export const givesFew = (given: number, time: number): boolean => given < (FEWEST * time) / 1000
/** Whether this machine's encoder kept up with the pictures that were given, and with the time. @param behind in ms */
export const keepsUp = (kept: number, given: number, behind: number): boolean => kept >= given * KEPT && behind <= BEHIND

export interface FittedCamera {
  /** Size at which it is recorded; null when the camera does not say. */
  readonly size: Size | null
  /** Whether it was made smaller so that this machine keeps up. */
  readonly stepped: boolean
}

const sizeOf = (track: MediaStreamTrack): Size | null => {
  const { width, height } = track.getSettings()
  return width === undefined || height === undefined ? null : { width, height }
}

/**
 * Records a moment of a camera and steps its size down until this machine keeps up, before a take rather than during it.
 * @param camera watched already (`watchCamera`)
 * @param stop ends the trial at once, as a take that begins must
 */
export async function fitCamera(camera: MediaStreamTrack, mic: MediaStreamTrack, stop: AbortSignal): Promise<FittedCamera> {
  let stepped = false
  for (;;) {
    const size = sizeOf(camera)
    const began = performance.now()
    const trial = await recordTrial(new MediaStream([camera, mic]), TRIAL, stop)
    if (trial === null || camera.readyState === 'ended') return { size, stepped }
    const given = framesSince(camera, began, began + TRIAL)
    const next = SIZES.find((one) => size !== null && one.height < size.height)
    if (next === undefined || givesFew(given, TRIAL) || keepsUp(framesInWebm(trial.bytes), given, trial.behind)) return { size, stepped }
    await scaleTrack(camera, { width: { ideal: next.width }, height: { ideal: next.height }, frameRate: { ideal: 30 } })
    // A camera that cannot be made smaller stays as it is.
    if (sizeOf(camera)?.height === size?.height) return { size, stepped }
    stepped = true
  }
}
