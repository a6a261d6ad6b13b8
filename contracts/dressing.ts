import type { OutlineAdvice } from '@core/camera'
import type { ClipMedia, Ms, NewBackdrop, StretchId, TakeId, VoiceTreatment } from '@core/model'
import type { VoiceFacts } from '@core/voice'

/** Music that is one of a talk's own files from now on. */
export interface MusicView {
  readonly name: string
  /** Where it is from, where that is known. */
  readonly credit: string
  readonly media: ClipMedia
}

/** A voice, what was measured in it, and what would make it better. */
export interface MeasuredVoice {
  readonly stretch: StretchId
  readonly take: TakeId
  readonly facts: VoiceFacts
  readonly proposed: VoiceTreatment
}

export type BackdropState = 'queued' | 'making' | 'done' | 'failed'

/** A camera with another backdrop: how far the film of it is. */
export interface BackdropFilmView {
  readonly stretch: StretchId
  readonly backdrop: NewBackdrop
  readonly state: BackdropState
  /** 0 to 1. */
  readonly share: number
  /** null while that is not known. */
  readonly timeLeft: Ms | null
  readonly sentence: string | null
}

/** The films that a talk's faces are to be seen in. */
export interface BackdropsView {
  readonly films: readonly BackdropFilmView[]
  /** How long making one took here of late, as a share of its length; null where none was made yet. */
  readonly pace: number | null
}

/** What a backdrop would look like. */
export interface BackdropStillView {
  /** JPEG in base 64. */
  readonly picture: string
  /** What would help, the worst first. */
  readonly advice: readonly OutlineAdvice[]
}
