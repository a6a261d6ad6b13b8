import type { CaptionKind, TranscriptKind } from '@contracts'

/** What kinds of caption files are called. */
export const CAPTION_NAMES: Readonly<Record<CaptionKind, string>> = { vtt: 'WebVTT', srt: 'SubRip' }

/** What kinds of transcript are called. */
export const TRANSCRIPT_NAMES: Readonly<Record<TranscriptKind, string>> = {
  docx: 'document',
  html: 'web page',
  md: 'Markdown',
  txt: 'plain text',
}
