import type { Ms } from '@core/model'

/** A sound comes between a time and a later one, or goes, where the second is the earlier one. */
export interface Fade {
  readonly from: Ms
  readonly to: Ms
}

/** How much of a sound there is at a time, 0 to 1, at equal power: the softest of its fades counts. */
export const fadedAt = (fades: readonly Fade[], at: Ms): number =>
  fades.reduce((least, { from, to }) => Math.min(least, Math.sin((Math.PI / 2) * Math.max(0, Math.min(1, (at - from) / (to - from))))), 1)
