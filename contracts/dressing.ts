import type { ClipMedia, StretchId, TakeId, VoiceTreatment } from '@core/model'
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
