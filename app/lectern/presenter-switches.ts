import type { NoteCue } from './lectern-screen'

export interface SwitchedBy {
  readonly note: NoteCue
  /** Has the microphone give silence, or its sound again. */
  readonly setMicMuted: (on: boolean) => void
  readonly recording: () => boolean
}

/** What a presenter switches on and off, and the places marked to be mended. Stamps are times of the page's clock. */
export function presenterSwitches({ note, setMicMuted, recording }: SwitchedBy) {
  /** Places that were marked to be mended, in this take. */
  const stumbles = ref(0)

  const setBlank = (on: boolean, stamp: number): void => {
    note((at) => ({ kind: 'blank', at, on }), stamp)
  }
  const setInset = (on: boolean, stamp: number): void => {
    note((at) => ({ kind: 'inset', at, on }), stamp)
  }
  /** While muted the voice is not stored; the stretch has silence there. */
  function setMuted(on: boolean, stamp: number): void {
    setMicMuted(on)
    note((at) => ({ kind: 'mute', at, on }), stamp)
  }
  /** Marks a place to be mended later. */
  function stumble(stamp: number): void {
    if (!recording()) return
    stumbles.value += 1
    note((at) => ({ kind: 'stumble', at }), stamp)
  }

  return { stumbles, setBlank, setInset, setMuted, stumble }
}
