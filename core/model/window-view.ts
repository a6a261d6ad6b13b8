import type { ClipId, SlideId } from './id'
import type { Ms } from './time'

/** Pictures a second that are asked of a window, and that its clip has. */
export const WINDOW_RATE = 15

/** A window that was shown while a stretch was recorded: it is a clip of a slide of its own. */
export interface WindowView {
  readonly clip: ClipId
  readonly slide: SlideId
  readonly name: string
  /** When it came, and when its recording began, in ms of the stretch. */
  readonly at: Ms
  readonly began: Ms
}

/** While a window looked like one of its full-size pictures, in ms of its recording. */
export interface StillTimes {
  readonly from: Ms
  readonly until: Ms
}
