import { unreachable } from '@core/model'
import type { Intent, Ms } from '@core/model'

/** What is recorded: everything; timings and ink without a voice; a voice over what is there. */
export type RecordingMode = 'full' | 'silent' | 'dub'

/** What a take is recorded for. */
export interface RecordingPlan {
  readonly intent: Intent
  readonly mode: RecordingMode
}

/** One slide, or a part of it, is said again: the take stays on that slide. */
export const isRetake = ({ intent }: RecordingPlan): boolean => intent.kind === 'retake' || intent.kind === 'range'

/** Where a recording is. A take exists from `opening` of its first stretch to `stopping`. */
export type RecordingState =
  | { readonly phase: 'idle' | 'after' | 'rehearsed' }
  /** `resumes`: it counts down to going on with a paused take, not to a new one. */
  | { readonly phase: 'countdown'; readonly plan: RecordingPlan; readonly resumes: boolean }
  /** A stretch is being opened: devices start, the browser's store is written. `resumes`: the take has stretches already. */
  | { readonly phase: 'opening'; readonly plan: RecordingPlan; readonly resumes: boolean }
  | { readonly phase: 'recording'; readonly plan: RecordingPlan }
  | { readonly phase: 'paused'; readonly plan: RecordingPlan }
  /** The paused take goes back to an earlier time, from which the rest is said again. */
  | { readonly phase: 'goingBack'; readonly plan: RecordingPlan }
  | { readonly phase: 'stopping'; readonly plan: RecordingPlan }
  | { readonly phase: 'rehearsing'; readonly paused: boolean }

/** Why a recording was interrupted without being asked to. */
export type Interruption =
  | { readonly kind: 'micLost' }
  | { readonly kind: 'cameraLost' }
  /** As when earphones are put in. */
  | { readonly kind: 'rateChanged' }
  /** `awake`: when the machine was last awake, on the page's clock; `asleep`: for how long it was not. */
  | { readonly kind: 'slept'; readonly awake: number; readonly asleep: Ms }

/** What happens to a recording. Stamps are times of the page's clock, in ms; null: now. */
export type RecordingEvent =
  /** `leadIn`: whether the seconds before the part are played instead of counting down; `countdown` in seconds. */
  | { readonly kind: 'record'; readonly plan: RecordingPlan; readonly leadIn: boolean; readonly countdown: number }
  | { readonly kind: 'rehearse' }
  /** The countdown, or what was played before the part, is over. */
  | { readonly kind: 'counted' }
  | { readonly kind: 'cancel' }
  /** The stretch that was asked for is open. */
  | { readonly kind: 'opened' }
  /** What was asked for last could not be done. `begun`: the take has a stretch. */
  | { readonly kind: 'failed'; readonly begun: boolean }
  | { readonly kind: 'pause'; readonly stamp: number | null }
  | { readonly kind: 'resume' }
  /** `at`: time of the take. */
  | { readonly kind: 'goBack'; readonly at: Ms }
  /** `countdown` in seconds. */
  | { readonly kind: 'wentBack'; readonly countdown: number }
  /** Asked for, or since the limit or the end of what is spoken over is reached. */
  | { readonly kind: 'stop'; readonly stamp: number | null }
  /** What is recorded from changes by choice, as when the camera is switched off: a new stretch takes over. */
  | { readonly kind: 'sourceChanged' }
  | { readonly kind: 'interrupted'; readonly by: Interruption }
  /** All of the take is on the server. */
  | { readonly kind: 'finished' }
  /** Back to before a take. */
  | { readonly kind: 'rest' }

/** What is to be done, in this order; each when the one before it is done. */
export type RecordingEffect =
  | { readonly kind: 'countDown'; readonly seconds: number }
  | { readonly kind: 'leadIn' }
  | { readonly kind: 'stopCounting' }
  | { readonly kind: 'beginTake'; readonly plan: RecordingPlan }
  /** If one is open, the new one takes over without a gap. */
  | { readonly kind: 'openStretch' }
  /** The stroke under way ends before the stretch closes. */
  | { readonly kind: 'endStroke' }
  | { readonly kind: 'closeStretch'; readonly stamp: number | null }
  | { readonly kind: 'stopTake' }
  /** A take that never began is let go. */
  | { readonly kind: 'dropTake' }
  | { readonly kind: 'goBackTo'; readonly at: Ms }
  | { readonly kind: 'cameraOff' }
  | { readonly kind: 'say'; readonly about: Interruption }
  | { readonly kind: 'startRun' | 'pauseRun' | 'resumeRun' | 'endRun' }
  | { readonly kind: 'clear' }

export interface RecordingStep {
  readonly state: RecordingState
  readonly effects: readonly RecordingEffect[]
}

/** Before anything was recorded. */
export const AT_REST: RecordingState = { phase: 'idle' }

const stay = (state: RecordingState, ...effects: readonly RecordingEffect[]): RecordingStep => ({ state, effects })

/** Whether nothing is under way, so that something can begin. */
export const canBegin = ({ phase }: RecordingState): boolean => phase === 'idle' || phase === 'after' || phase === 'rehearsed'

const close = (stamp: number | null): readonly RecordingEffect[] => [{ kind: 'endStroke' }, { kind: 'closeStretch', stamp }]

/** A stretch that is still being opened closes as soon as it is open: its stamp would be before its beginning. */
function pause(state: RecordingState, stamp: number | null): RecordingStep {
  switch (state.phase) {
    case 'recording':
      return stay({ phase: 'paused', plan: state.plan }, ...close(stamp))
    case 'opening':
      return stay({ phase: 'paused', plan: state.plan }, ...close(null))
    case 'goingBack':
      return stay({ phase: 'paused', plan: state.plan })
    case 'countdown':
      return cancel(state)
    case 'rehearsing':
      return state.paused ? stay(state) : stay({ phase: 'rehearsing', paused: true }, { kind: 'pauseRun' })
    default:
      return stay(state)
  }
}

function resume(state: RecordingState): RecordingStep {
  if (state.phase === 'paused') return stay({ phase: 'opening', plan: state.plan, resumes: true }, { kind: 'openStretch' })
  if (state.phase === 'rehearsing' && state.paused) return stay({ phase: 'rehearsing', paused: false }, { kind: 'resumeRun' })
  return stay(state)
}

function stop(state: RecordingState, stamp: number | null): RecordingStep {
  switch (state.phase) {
    case 'recording':
      return stay({ phase: 'stopping', plan: state.plan }, ...close(stamp), { kind: 'stopTake' })
    case 'opening':
      return stay({ phase: 'stopping', plan: state.plan }, ...close(null), { kind: 'stopTake' })
    case 'paused':
    case 'goingBack':
      return stay({ phase: 'stopping', plan: state.plan }, { kind: 'stopTake' })
    case 'countdown':
      return state.resumes ? stay({ phase: 'stopping', plan: state.plan }, { kind: 'stopCounting' }, { kind: 'stopTake' }) : cancel(state)
    case 'rehearsing':
      return stay({ phase: 'rehearsed' }, { kind: 'endRun' })
    default:
      return stay(state)
  }
}

function cancel(state: RecordingState): RecordingStep {
  if (state.phase !== 'countdown') return stay(state)
  return stay(state.resumes ? { phase: 'paused', plan: state.plan } : AT_REST, { kind: 'stopCounting' })
}

function counted(state: RecordingState): RecordingStep {
  if (state.phase !== 'countdown') return stay(state)
  const { plan, resumes } = state
  const begin: readonly RecordingEffect[] = resumes ? [] : [{ kind: 'beginTake', plan }]
  return stay({ phase: 'opening', plan, resumes }, ...begin, { kind: 'openStretch' })
}

/** A stretch that is open though the recording has paused is closed: as when closing the one before it failed meanwhile. */
function opened(state: RecordingState): RecordingStep {
  switch (state.phase) {
    case 'opening':
      return stay({ phase: 'recording', plan: state.plan })
    case 'paused':
    case 'goingBack':
      return stay(state, { kind: 'closeStretch', stamp: null })
    default:
      return stay(state)
  }
}

function failed(state: RecordingState, begun: boolean): RecordingStep {
  switch (state.phase) {
    case 'opening':
    case 'goingBack':
    case 'paused':
      return begun ? stay({ phase: 'paused', plan: state.plan }) : stay(AT_REST, { kind: 'dropTake' })
    default:
      return stay(state)
  }
}

function interrupted(state: RecordingState, by: Interruption): RecordingStep {
  if (state.phase !== 'recording' && state.phase !== 'opening') return stay(state)
  const say: RecordingEffect = { kind: 'say', about: by }
  switch (by.kind) {
    case 'micLost':
      return stay({ phase: 'paused', plan: state.plan }, ...close(null), say)
    case 'slept':
      return stay({ phase: 'paused', plan: state.plan }, ...close(state.phase === 'recording' ? by.awake : null), say)
    case 'cameraLost':
      return stay(state, { kind: 'cameraOff' }, say)
    case 'rateChanged':
      return stay(state, say, { kind: 'openStretch' })
    default:
      return unreachable(by)
  }
}

function record(state: RecordingState, { plan, leadIn, countdown }: Extract<RecordingEvent, { kind: 'record' }>): RecordingStep {
  if (!canBegin(state)) return stay(state)
  const first: RecordingEffect = leadIn ? { kind: 'leadIn' } : { kind: 'countDown', seconds: countdown }
  return stay({ phase: 'countdown', plan, resumes: false }, first)
}

/**
 * Whether going on ends the take instead.
 * @param last there is no further step
 * @param endAfterLast whether a take is to end there
 */
export const endsWithStep = (state: RecordingState, last: boolean, endAfterLast: boolean): boolean =>
  state.phase === 'recording' && last && (endAfterLast || isRetake(state.plan))

/**
 * What becomes of a recording when something happens to it. Effects are carried out one after the other, so a stretch whose opening
 * was asked for is open when its closing comes: nothing that is asked for meanwhile is lost.
 * @returns the next state and what is to be done; an event that means nothing in a state leaves it as it is
 */
export function stepRecording(state: RecordingState, event: RecordingEvent): RecordingStep {
  switch (event.kind) {
    case 'record':
      return record(state, event)
    case 'rehearse':
      return canBegin(state) ? stay({ phase: 'rehearsing', paused: false }, { kind: 'startRun' }) : stay(state)
    case 'counted':
      return counted(state)
    case 'cancel':
      return cancel(state)
    case 'opened':
      return opened(state)
    case 'failed':
      return failed(state, event.begun)
    case 'pause':
      return pause(state, event.stamp)
    case 'resume':
      return resume(state)
    case 'goBack':
      return state.phase === 'paused' ? stay({ phase: 'goingBack', plan: state.plan }, { kind: 'goBackTo', at: event.at }) : stay(state)
    case 'wentBack':
      return wentBack(state, event.countdown)
    case 'stop':
      return stop(state, event.stamp)
    case 'sourceChanged':
      return state.phase === 'recording' && state.plan.mode !== 'silent' ? stay(state, { kind: 'openStretch' }) : stay(state)
    case 'interrupted':
      return interrupted(state, event.by)
    case 'finished':
      return state.phase === 'stopping' ? stay({ phase: 'after' }) : stay(state)
    case 'rest':
      return canBegin(state) ? stay(AT_REST, { kind: 'clear' }) : stay(state)
    default:
      return unreachable(event)
  }
}

function wentBack(state: RecordingState, countdown: number): RecordingStep {
  if (state.phase !== 'goingBack') return stay(state)
  return stay({ phase: 'countdown', plan: state.plan, resumes: true }, { kind: 'countDown', seconds: countdown })
}
