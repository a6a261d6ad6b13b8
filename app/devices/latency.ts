import type { Ms } from '@core/model'
import { deviceLatencyOf } from '@core/voice'
import type { DeviceLatency } from '@core/voice'

/** How late a camera and a microphone were by claps before them. */
export interface ClappedDevices {
  readonly camera: string
  readonly mic: string
  /** How much later its pictures come than the microphone's sound, in ms. */
  readonly late: Ms
}

/** How late the devices that are open are known to be. @param camera null: none is open */
export function knownLatency(claps: readonly ClappedDevices[], camera: string | null, mic: string): DeviceLatency {
  const here = claps.find((pair) => pair.mic === mic && (camera === null || pair.camera === camera))
  return deviceLatencyOf(here === undefined ? [] : [here.late])
}

/** What is known once some devices were clapped before. @param late null: it is forgotten */
export const withLatency = (claps: readonly ClappedDevices[], camera: string, mic: string, late: Ms | null): readonly ClappedDevices[] => [
  ...(late === null ? [] : [{ camera, mic, late }]),
  ...claps.filter((pair) => pair.camera !== camera || pair.mic !== mic),
]
