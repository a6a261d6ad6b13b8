import type { Ref } from 'vue'
import type { Ms } from '@core/model'
import { isRetake } from '@core/session'
import type { RecordingPlan } from '@core/session'
import type { Phase } from './phase'

export interface LimitedBy {
  readonly plan: Ref<RecordingPlan>
  readonly phase: Ref<Phase>
  /** Whether a take has begun. */
  readonly begun: () => boolean
  /** How long the talk is by now, and the film that is spoken over; null: there is none. */
  readonly spent: () => Ms
  readonly film: () => Ms | null
  /** The talk's limit; null: it has none, or takes do not end at it. */
  readonly limit: () => Ms | null
}

/** How long a take may still be, in ms: it ends with the film that it is spoken over, or at the limit. null: nothing ends it. */
export const takeLimit = ({ plan, phase, begun, spent, film, limit }: LimitedBy): Ref<Ms | null> =>
  computed(() => {
    if (!begun() || (phase.value !== 'recording' && phase.value !== 'paused')) return null
    const { mode } = plan.value
    const end = mode === 'dub' ? film() : limit()
    return end === null || (mode !== 'dub' && isRetake(plan.value)) ? null : end - spent()
  })
