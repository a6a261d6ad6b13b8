import { isRetake } from '@core/session'
import type { RecordingPlan, RecordingState } from '@core/session'
import type { TakeKind } from '@core/model'

/** Where a recording is, as the Lectern shows it. */
export type Phase = 'idle' | 'countdown' | 'recording' | 'paused' | 'stopping' | 'after' | 'rehearsing' | 'rehearsed'

/** A first stretch that is being opened is still counted down to; later ones are paused until they are open. */
export function phaseOf(state: RecordingState): Phase {
  switch (state.phase) {
    case 'opening':
      return state.resumes ? 'paused' : 'countdown'
    case 'goingBack':
      return 'paused'
    case 'rehearsing':
      return state.paused ? 'paused' : 'rehearsing'
    default:
      return state.phase
  }
}

/** What kind of take a plan makes. */
export function takeKindOf(plan: RecordingPlan): TakeKind {
  if (plan.mode === 'dub') return 'dub'
  return isRetake(plan) ? 'retake' : 'full'
}
