import type { Ms, Said, StretchId } from '@core/model'
import type { UnknownWord } from '@core/spelling'
import type { Correction } from '@core/words'

/**
 * How what is said was found: heard by what every server has, with the notes in mind; by a model that its operator put there; or what is
 * written laid on the voice by its pauses.
 */
export type ListenedBy = 'model' | 'folder' | 'pauses'

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

/** As many as a caption file of three hours may need. */
export const MOST_CORRECTIONS = 10_000

/** What somebody says was said. */
export interface CorrectionsRequest {
  readonly corrections: readonly CorrectionRequest[]
  /** They come from a caption file. */
  readonly brought: boolean
}

export const CAPTION_KINDS = ['vtt', 'srt'] as const
export type CaptionKind = (typeof CAPTION_KINDS)[number]
export const TRANSCRIPT_KINDS = ['docx', 'html', 'md', 'txt'] as const
export type TranscriptKind = (typeof TRANSCRIPT_KINDS)[number]

/** Words of a talk that may be misspelt. */
export interface SpellingView {
  /** Whether there is a dictionary for the talk's language. */
  readonly checked: boolean
  readonly words: readonly (UnknownWord & { /** What may be meant, the likeliest first. */ readonly instead: readonly string[] })[]
}
