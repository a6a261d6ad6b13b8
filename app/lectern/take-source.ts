import type { RecordingEvent, RecordingPlan } from '@core/session'
import type { Source } from '~/capture'
import type { useDevices } from '~/stores/devices'

/** What a take is recorded from. */
export interface TakenFrom {
  readonly devices: ReturnType<typeof useDevices>
  readonly happen: (event: RecordingEvent) => Promise<void>
  readonly fail: (error: unknown) => void
}

/** Has the devices open that a take is recorded from, and its camera stopped and started while it goes on. */
export function takeSource({ devices, happen, fail }: TakenFrom) {
  return {
    open: async ({ mode }: RecordingPlan): Promise<Source> => {
      devices.endFit()
      if (mode === 'silent') return { stream: null, camera: false, late: devices.late }
      if (!devices.alive()) await devices.open()
      return { stream: devices.stream, camera: devices.cameraOn, late: devices.late }
    },
    /** Stops the camera itself or starts it again; a take goes on without a gap. */
    setCamera: async (on: boolean): Promise<void> => {
      try {
        await devices.setCamera(on)
        await happen({ kind: 'sourceChanged' })
      } catch (error) {
        fail(error)
      }
    },
  }
}
