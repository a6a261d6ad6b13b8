import type { CaptionKind } from '@contracts'

/** What kinds of caption files are called. */
export const CAPTION_NAMES: Readonly<Record<CaptionKind, string>> = { vtt: 'WebVTT', srt: 'SubRip' }
