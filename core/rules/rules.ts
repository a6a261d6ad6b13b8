import type { Size } from '@core/model'

/** Containers that rules can name: those that are made here, and others that people bring. */
export const CONTAINERS = ['mp4', 'mov', 'webm', 'mkv', 'm4a', 'mp3', 'wav'] as const
export type Container = (typeof CONTAINERS)[number]

/** Codecs that rules can name, as `ffprobe` calls them. */
export const VIDEO_CODECS = ['h264', 'hevc', 'vp8', 'vp9', 'av1', 'mpeg4'] as const
export type VideoCodec = (typeof VIDEO_CODECS)[number]
export const AUDIO_CODECS = ['aac', 'opus', 'vorbis', 'mp3', 'pcm'] as const
export type AudioCodec = (typeof AUDIO_CODECS)[number]

/** Bounds on both sides, of which either may be open. */
export interface Bounds {
  readonly least?: number
  readonly most?: number
}

/** What may be filled into a field. */
export const FIELD_SIGNS = ['anything', 'digits', 'letters', 'letters-and-digits'] as const
export type FieldSigns = (typeof FIELD_SIGNS)[number]

/** Something that is asked with the file, such as the number of a paper. */
export interface RuleField {
  /** Lower-case letters; names of files may hold it in braces. */
  readonly key: string
  /** What it is called. */
  readonly label: string
  /** Whether it may stay empty. */
  readonly optional?: boolean
  readonly signs?: FieldSigns
  /** How many signs. */
  readonly length?: Bounds
}

/** Where captions are taken: in the file, in a file of their own, or either. */
export const CAPTION_PLACES = ['inside', 'beside', 'either'] as const
export type CaptionPlace = (typeof CAPTION_PLACES)[number]

/**
 * What a desk or a call accepts: a small open document, described in docs/formats.md. What is left out may be anything.
 */
export interface Rules {
  readonly kind: 'talk-rules'
  readonly version: 1
  readonly name: string
  /** What they are for, in a sentence. */
  readonly about?: string
  /** Seconds. */
  readonly length?: Bounds
  /** Most bytes of the file. */
  readonly bytes?: number
  readonly containers?: readonly Container[]
  readonly videoCodecs?: readonly VideoCodec[]
  readonly audioCodecs?: readonly AudioCodec[]
  /** Height of the picture in pixels. */
  readonly lines?: Bounds
  /** Ratio of the picture's sides, such as 16 by 9. */
  readonly shape?: Size
  /** Frames in a second. */
  readonly rates?: readonly number[]
  /** LUFS. */
  readonly loudness?: Bounds
  /** The file's name without its ending; fields of these rules stand in it in braces. */
  readonly fileName?: string
  readonly captions?: { readonly where: CaptionPlace; readonly language?: string }
  readonly transcript?: { readonly language?: string }
  /** Least size of a picture that stands for the talk, in pixels. */
  readonly cover?: Size
  readonly fields?: readonly RuleField[]
  /** Moment after which nothing is taken, ISO 8601 with its offset. */
  readonly until?: string
  /** How often one may hand in. */
  readonly tries?: number
}
