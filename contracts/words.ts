import type { Ms, Said, StretchId } from '@core/model'
import type { Correction } from '@core/words'

/** How what is said was found: heard, or what is written laid on the voice by its pauses. */
export type ListenedBy = 'model' | 'pauses'

/** What is said in a stretch. */
export interface SaidView extends Said {
  readonly stretch: StretchId
  readonly state: 'done' | 'failed'
  /** null when nothing could be found. */
  readonly by: ListenedBy | null
  /** Why nothing was found; null: something was. */
  readonly sentence: string | null
  readonly corrections: readonly Correction[]
}

/** What is said in a talk, as far as it was listened to. */
export interface WordsView {
  readonly stretches: readonly SaidView[]
  /** Recordings of it that wait to be listened to. */
  readonly waiting: number
  /** Names and terms that are said in it. */
  readonly terms: readonly string[]
}

/** What was said in a part of a stretch, in ms of it; empty: nothing that is to be read. */
export interface CorrectionRequest {
  readonly stretch: StretchId
  readonly from: Ms
  readonly until: Ms
  readonly text: string
}

export const CAPTION_KINDS = ['vtt', 'srt'] as const
export type CaptionKind = (typeof CAPTION_KINDS)[number]
export const TRANSCRIPT_KINDS = ['docx', 'html', 'md', 'txt'] as const
export type TranscriptKind = (typeof TRANSCRIPT_KINDS)[number]
