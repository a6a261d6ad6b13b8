import type { RecordingState } from '@core/session'

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
