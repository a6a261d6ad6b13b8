import { asId } from '@core/model'
import type { Cue, Ms } from '@core/model'
import { applyCue, openingScreen } from '@core/session'
import type { Screen } from '@core/session'

/** Makes a cue for a time of the take. */
export type MakeCue = (at: Ms) => Cue

/** Notes what the presenter does, and when, on the page's clock. */
export type NoteCue = (make: MakeCue, stamp: number) => void

/** Before any slide was shown. */
const EMPTY = openingScreen({ slide: asId(''), step: 0, blank: false, inset: true, ink: [] })

/**
 * What is on screen at the Lectern: every cue changes it, whether a take is under way or not.
 * @param record notes a cue in the take, if there is one
 */
export function lecternScreen(record: NoteCue) {
  const screen = shallowRef<Screen>(EMPTY)

  const note: NoteCue = (make, stamp) => {
    screen.value = applyCue(screen.value, make(0))
    record(make, stamp)
  }

  /** Puts something on screen that is no event of the take, as when it goes back. */
  const put = (fields: Partial<Screen>): void => {
    screen.value = { ...screen.value, ...fields }
  }

  return { screen, note, put }
}
