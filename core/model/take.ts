import type { PlayedClip } from './clip'
import type { Cue } from './cue'
import type { SlideId, StretchId, TakeId, VisitId } from './id'
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
  /** Clips of the slide that were started; left out: none was. */
  readonly clips?: readonly PlayedClip[]
  /** How long what is drawn on the slide has been moving with its step, in ms; left out: it moves no more. */
  readonly moved?: Ms
}

/** An unbroken part of a take. */
export interface Stretch {
  readonly id: StretchId
  readonly length: Ms
  /** How much of it counts: less than all when its presenter went back and said the rest again. */
  readonly kept: Ms
  readonly camera: boolean
  /** Without a voice it holds timings and ink alone. */
  readonly voice: boolean
  /** Integrated loudness of its voice in LUFS; null or absent when that is not known, or it is too quiet to say. */
  readonly loudness?: number | null
  /** For how long its camera gave no pictures, in ms; absent when that is not known. */
  readonly cameraLost?: Ms
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
  | { readonly kind: 'replaceFrom'; readonly at: Ms }
  /** It takes the place of one visit; what came before and after it stays. */
  | { readonly kind: 'retake'; readonly visit: VisitId }
  /** It takes the place of a part of one visit, in ms from the visit's beginning. */
  | { readonly kind: 'range'; readonly visit: VisitId; readonly from: Ms; readonly to: Ms }
  /** Its voice, and its camera if it has one, take the place of those from `at` on; what is shown stays. */
  | { readonly kind: 'dub'; readonly at: Ms }

/** One recording from start to stop. */
export interface Take {
  readonly id: TakeId
  readonly kind: TakeKind
  readonly stretches: readonly Stretch[]
}
