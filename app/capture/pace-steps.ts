import type { Ms } from '@core/model'

/** When pictures are given up, and when they are asked for again. */
export interface PaceRules {
  /** A recording that is so far behind what is said has an encoder that does not keep up, in ms. */
  readonly behind: Ms
  /** Pictures a second that are asked for instead, from one time to the next; and those that are asked for at first. */
  readonly rates: readonly number[]
  readonly usual: number
  /** Whether a recording that may have no sound is only as far as its last picture. */
  readonly byPictures: boolean
  /** How long it has to keep up before more pictures are asked for again, in ms; null: they are not. */
  readonly recovers: Ms | null
}

/** How a recording has kept up so far. Times are of one clock, in ms. */
export interface PaceState {
  /** How many times pictures were given up and not asked for again. */
  readonly step: number
  /** When that was changed last. */
  readonly changed: Ms
  /** When more were asked for last. */
  readonly raised: Ms
  /** Since when it has kept up; null: it does not. */
  readonly near: Ms | null
  /** How long it has to keep up the next time. */
  readonly patience: Ms
}

/** How long a step is given to work before the next, in ms. */
const SETTLES: Ms = 1500
/** A recording is near again when it is less than this part of `behind` away. */
const NEAR = 0.7
/** Longest that it has to keep up before more is asked for: each time that was too early it is twice as long. */
const LONGEST_PATIENCE: Ms = 60_000

export const firstPace = ({ recovers }: PaceRules): PaceState => ({
  step: 0,
  changed: -Infinity,
  raised: -Infinity,
  near: null,
  patience: recovers ?? Infinity,
})

/** Pictures a second that are asked for. */
export const pacedRate = ({ usual, rates }: PaceRules, { step }: PaceState): number => rates[step - 1] ?? usual

function givenUp(state: PaceState, now: Ms): PaceState {
  const early = now - state.raised < state.patience
  const patience = early ? Math.min(LONGEST_PATIENCE, state.patience * 2) : state.patience
  return { ...state, step: state.step + 1, changed: now, near: null, patience }
}

/**
 * What is asked of a recording after a piece of it came.
 * @param lag how far the recording was behind when the piece came, in ms
 * @param now when that was
 */
export function paceAfter(rules: PaceRules, state: PaceState, lag: Ms, now: Ms): PaceState {
  const between = rules.byPictures ? 1000 / pacedRate(rules, state) : 0
  const settled = now - state.changed >= SETTLES
  if (lag >= rules.behind + between) {
    const lost = { ...state, near: null }
    return settled && state.step < rules.rates.length ? givenUp(lost, now) : lost
  }
  if (lag > rules.behind * NEAR + between) return { ...state, near: null }
  const near = state.near ?? now
  if (state.step === 0 || !settled || now - near < state.patience) return { ...state, near }
  return { ...state, step: state.step - 1, changed: now, raised: now, near: null }
}
