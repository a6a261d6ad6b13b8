import type { Cue } from './cue'
import type { SlideId, StretchId, TakeId } from './id'
import type { Stroke } from './stroke'
import type { Ms } from './time'

/** All that is on screen when a stretch opens, so that each stretch stands on its own. */
export interface Snapshot {
  readonly slide: SlideId
  readonly step: number
  readonly blank: boolean
  readonly inset: boolean
  /** Ink lying on any slide, the current one or not. */
  readonly ink: readonly Stroke[]
}

/** An unbroken part of a take. */
export interface Stretch {
  readonly id: StretchId
  readonly length: Ms
  readonly camera: boolean
  readonly opening: Snapshot
  /** In order of `at`. */
  readonly cues: readonly Cue[]
}

export const TAKE_KINDS = ['full', 'retake', 'dub', 'rehearsal'] as const
export type TakeKind = (typeof TAKE_KINDS)[number]

/** What becomes of the programme when a take is finished. */
export type Intent =
  | { readonly kind: 'replaceAll' }
  | { readonly kind: 'append' }
  | { readonly kind: 'replaceFrom', readonly at: Ms }

/** One recording from start to stop. */
export interface Take {
  readonly id: TakeId
  readonly kind: TakeKind
  readonly stretches: readonly Stretch[]
}
