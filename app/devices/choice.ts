import type { DeviceChoice } from '~/capture'

/** A device as it is remembered. */
export interface RememberedDevice {
  readonly id: string
  readonly label: string
}

export const nameOfDevice = (id: string, from: readonly DeviceChoice[]): string =>
  from.find((device) => device.id === id)?.label ?? 'the device'

/**
 * What was used last if it is here, else the first there is.
 * @param none what is taken where there is none
 * @returns its id, and in words what became of the one that was used last
 */
export function usualDevice(
  last: RememberedDevice | null,
  from: readonly DeviceChoice[],
  none: string,
): { readonly id: string; readonly missing: string | null } {
  const here = from.find((device) => device.id === last?.id) ?? from.find((device) => device.label === last?.label)
  const id = here?.id ?? from[0]?.id ?? none
  const missing =
    last === null || here !== undefined
      ? null
      : `${last.label}, which you used last, is not here. ${nameOfDevice(id, from)} is chosen instead.`
  return { id, missing }
}
