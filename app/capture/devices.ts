import { Refusal } from '@core/model'

/** A camera or microphone that can be chosen. */
export interface DeviceChoice {
  readonly id: string
  readonly label: string
}

export const PRACTICE = 'practice'
/** Practice devices that flash and click together, for seeing how well picture and sound meet. */
export const CLAP = 'practice-clap'
export const NO_CAMERA = 'none'

/** What can be chosen now. Names of real devices are known only once one of them was allowed. */
export async function listDevices(kind: 'camera' | 'mic'): Promise<readonly DeviceChoice[]> {
  const wanted = kind === 'camera' ? 'videoinput' : 'audioinput'
  const found = (await navigator.mediaDevices?.enumerateDevices().catch(() => [])) ?? []
  const real = found
    .filter((device) => device.kind === wanted && device.deviceId !== 'communications')
    .map((device, n) => ({
      id: device.deviceId === '' ? 'default' : device.deviceId,
      label: device.label || `${kind === 'camera' ? 'Camera' : 'Microphone'} ${String(n + 1)}`,
    }))
  return kind === 'camera'
    ? [
        ...real,
        { id: PRACTICE, label: 'Practice camera' },
        { id: CLAP, label: 'Practice flash (to test timing)' },
        { id: NO_CAMERA, label: 'No camera' },
      ]
    : [...real, { id: PRACTICE, label: 'Practice mic' }, { id: CLAP, label: 'Practice click (to test timing)' }]
}

/** Says in words why a device did not open. */
export function deviceTrouble(error: unknown, what: 'camera' | 'microphone'): Refusal {
  const name = error instanceof DOMException ? error.name : ''
  const sentence: Record<string, string> = {
    NotAllowedError: `The browser was not allowed to use the ${what}. Allow it beside the address, or choose the practice device.`,
    NotFoundError: `This ${what} is not connected. Choose another one.`,
    OverconstrainedError: `This ${what} is not connected any more. Choose another one.`,
    NotReadableError: `Another program is using this ${what}. Close it there, or choose another one.`,
  }
  if (navigator.mediaDevices === undefined) {
    return new Refusal(
      'unavailable',
      `Browsers give the ${what} only to pages on this computer or under https. Open the page under its https address.`,
    )
  }
  return new Refusal('unavailable', sentence[name] ?? `The ${what} could not be opened. Choose another one.`)
}
