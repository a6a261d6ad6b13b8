import { AT_REST, stepRecording } from '@core/session'
import type { RecordingEffect, RecordingEvent, RecordingState } from '@core/session'

export interface CarriesOut {
  /** Does one thing; the next waits until it is done. What needs no waiting is done at once. */
  readonly carryOut: (effect: RecordingEffect) => Promise<void> | undefined
  /** Whether the take has a stretch. */
  readonly begun: () => boolean
  readonly fail: (error: unknown) => void
}

/** Runs the machine of a recording: takes what happens, and has carried out what is to be done, one after the other. */
export function recordingRunner({ carryOut, begun, fail }: CarriesOut) {
  const state = shallowRef<RecordingState>(AT_REST)
  const waiting: RecordingEffect[] = []
  let working: Promise<void> = Promise.resolve()
  let isWorking = false

  async function work(): Promise<void> {
    isWorking = true
    for (let effect = waiting.shift(); effect !== undefined; effect = waiting.shift()) {
      try {
        const done = carryOut(effect)
        if (done !== undefined) await done
      } catch (error) {
        fail(error)
        take({ kind: 'failed', begun: begun() })
      }
    }
    isWorking = false
  }

  function take(event: RecordingEvent): void {
    const next = stepRecording(state.value, event)
    state.value = next.state
    waiting.push(...next.effects)
  }

  /** Something happens. @returns when all that follows from it, and from what happened before, is done */
  function happen(event: RecordingEvent): Promise<void> {
    take(event)
    // What is done may have something happen at once: that is done after it, by the same round.
    if (!isWorking) working = work()
    return working
  }

  /** Has something happen whose end nobody waits for. */
  const send = (event: RecordingEvent): void => {
    void happen(event)
  }

  /** When all that was asked for is done. */
  const settled = (): Promise<void> => working

  return { state, happen, send, settled }
}
