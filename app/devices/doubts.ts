import type { Ms } from '@core/model'
import type { LevelVerdict } from '@core/voice'
import type { CameraState } from '~/capture'

/** A camera that gave no picture for longer than this is dead, in ms. */
const DEAD: Ms = 2500

/** What is open, as it is before a take. */
export interface OpenDevices {
  readonly mic: { readonly name: string; readonly live: boolean; readonly verdict: LevelVerdict }
  /** null: none is wanted. */
  readonly camera: {
    readonly name: string
    readonly live: boolean
    readonly state: CameraState
    /** When it was opened, on the page's clock: it is given its time. */
    readonly since: Ms
  } | null
}

/** What speaks against starting a take now, in words. @param now on the page's clock */
export function doubtsOf({ mic, camera }: OpenDevices, now: Ms): readonly string[] {
  const said: string[] = []
  if (!mic.live) said.push('The microphone is gone. Nothing of what you say would be kept.')
  else if (mic.verdict === 'nothing') said.push(`Nothing is heard from ${mic.name}. Is it the right one, and switched on?`)
  if (camera === null) return said
  if (!camera.live || now - (camera.state.seen ?? camera.since) > DEAD) said.push(`${camera.name} gives no picture.`)
  else if (camera.state.dark) said.push(`The picture of ${camera.name} is black. Is its cover open?`)
  return said
}
