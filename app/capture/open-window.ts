import { paintProgram } from '@core/practice'
import type { PaintContext } from '@core/paint'
import { Refusal, WINDOW_RATE } from '@core/model'
import { drawnCamera } from './practice-devices'
import type { ProgramOrder } from './practice-program-worker'
import { workerDevice } from './worker-device'

/** Recorded as it is: browsers do not scale what a script draws. */
const PRACTICE_SIZE = { width: 1280, height: 720 }

/** A window, a tab or a screen that is shown, as it is given by the browser. */
export interface OpenWindow {
  readonly name: string
  /** Its pictures in full size. */
  readonly picture: MediaStreamTrack
  /** null: the browser or the computer gives none. */
  readonly sound: MediaStreamTrack | null
  readonly stop: () => void
}

const SURFACES: Readonly<Record<string, string>> = { window: 'A window', browser: 'A tab', monitor: 'The screen' }

/** Not in TypeScript's types: which of them was chosen. */
interface DisplaySettings extends MediaTrackSettings {
  readonly displaySurface?: string
}

/** Says in words why no window is shown; null when whoever was asked did not want one. */
function windowTrouble(error: unknown): Refusal | null {
  const name = error instanceof DOMException ? error.name : ''
  if (name === 'NotAllowedError') return null
  return new Refusal(
    'unavailable',
    name === 'NotReadableError'
      ? 'This computer does not let the browser see that window. Choose another one, or allow it in the settings of the computer.'
      : 'The window could not be shown. Choose another one, or try the practice window.',
  )
}

/**
 * Asks for a window, a tab or the screen, with its sound if there is any.
 * @returns null when none was chosen
 * @throws Refusal saying what to do
 */
export async function chooseWindow(): Promise<OpenWindow | null> {
  if (!('getDisplayMedia' in (navigator.mediaDevices ?? {})))
    throw new Refusal('unavailable', 'This browser cannot show windows. Use another one on a computer, or try the practice window.')
  try {
    const stream = await navigator.mediaDevices.getDisplayMedia({ video: { frameRate: { ideal: WINDOW_RATE, max: 30 } }, audio: true })
    const [[picture], [sound]] = [stream.getVideoTracks(), stream.getAudioTracks()]
    if (picture === undefined) throw new DOMException('no track', 'NotFoundError')
    const { displaySurface }: DisplaySettings = picture.getSettings()
    return {
      name: SURFACES[displaySurface ?? ''] ?? 'A window',
      picture,
      sound: sound ?? null,
      stop: () => {
        for (const track of stream.getTracks()) track.stop()
      },
    }
  } catch (error) {
    const trouble = windowTrouble(error)
    if (trouble !== null) throw trouble
    return null
  }
}

/** The practice window: a drawn program that moves and clicks. */
export function openPracticeWindow(): OpenWindow {
  const device = workerDevice('video', (writable) => {
    const worker = new Worker(new URL('./practice-program-worker.ts', import.meta.url), { type: 'module' })
    const order: ProgramOrder = { writable, origin: performance.timeOrigin, size: PRACTICE_SIZE, fps: WINDOW_RATE }
    worker.postMessage(order, [writable])
    return worker
  })
  const { stream, stop } =
    device ??
    drawnCamera((ctx, size, at) => {
      const paint: PaintContext<CanvasImageSource> = ctx
      paintProgram(paint, size, at)
    }, PRACTICE_SIZE)
  const [picture] = stream.getVideoTracks()
  if (picture === undefined) throw new Error('a device that was made has no picture')
  return { name: 'Practice window', picture, sound: null, stop }
}
