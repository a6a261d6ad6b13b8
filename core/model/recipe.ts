import type { SlideId } from './id'
import type { Ms } from './time'

export const LINES = [480, 720, 1080, 1440, 2160] as const
/** Height of the video in pixels. */
export type Lines = (typeof LINES)[number]

export const QUALITIES = ['small', 'good', 'fine'] as const
export type Quality = (typeof QUALITIES)[number]

/** What is done when the film is longer than the limit: `hold` refuses, `warn` says so and goes ahead. */
export type LimitRule = { readonly kind: 'none' } | { readonly kind: 'warn' | 'hold'; readonly limit: Ms }

export const FRAME_RATES = [24, 25, 30, 50, 60] as const
/** Frames in a second of a video. */
export type FrameRate = (typeof FRAME_RATES)[number]
/** What most upload forms ask for. */
const USUAL_RATE: FrameRate = 30

/** What of a talk is left out of a file. */
export interface LeftOut {
  readonly face: boolean
  readonly ink: boolean
  readonly voice: boolean
}
const NOTHING_LEFT_OUT: LeftOut = { face: false, ink: false, voice: false }

/** Kinds of file: a video for most uses, one in open formats, or the sound alone. */
export const FORMATS = ['mp4', 'webm', 'm4a', 'mp3', 'wav'] as const
export type Format = (typeof FORMATS)[number]
/** Formats with a picture. */
export type VideoFormat = Extract<Format, 'mp4' | 'webm'>
export const isVideo = (format: Format): format is VideoFormat => format === 'mp4' || format === 'webm'

/** What of the talk goes into a file: all of it, from one time to another, or the showings of some slides. */
export type PartWanted =
  | { readonly kind: 'all' }
  | { readonly kind: 'range'; readonly from: Ms; readonly to: Ms }
  /** `within`: only as far as they are shown between these times. */
  | { readonly kind: 'slides'; readonly slides: readonly SlideId[]; readonly within?: { readonly from: Ms; readonly to: Ms } }
export const ALL_OF_IT: PartWanted = { kind: 'all' }

/** Whether a file keeps the times and voice that were recorded, or is a slide show of the planned times. */
export const TIMINGS = ['recorded', 'planned'] as const
export type Timing = (typeof TIMINGS)[number]

/**
 * What bounds the bytes of a video besides its quality: nothing; a rate, in kbit a second; or the size of the whole file,
 * in bytes, which it stays under and of which it uses at least nine tenths if there is that much to show.
 */
export type BitsRule =
  { readonly kind: 'free' } | { readonly kind: 'rate'; readonly most: number } | { readonly kind: 'size'; readonly most: number }
const FREE_BITS: BitsRule = { kind: 'free' }

/** How loud a file is, in LUFS: as most places that play videos bring them to, as most speech is heard best, as broadcasters ask. */
export const LOUDNESSES = [-14, -16, -23] as const
export type LoudnessWanted = (typeof LOUDNESSES)[number]
const USUAL_LOUDNESS: LoudnessWanted = -16

/** How what is said goes into a file with a picture. */
export const CAPTIONS_IN_FILE = ['inside', 'drawn', 'none'] as const

/** What file is wanted. */
export interface Recipe {
  readonly format: Format
  readonly lines: Lines
  /** Instead of so many lines in the deck's shape. */
  readonly size: OwnSize | null
  readonly rate: FrameRate
  readonly quality: Quality
  readonly bits: BitsRule
  readonly loudness: LoudnessWanted
  readonly part: PartWanted
  readonly timing: Timing
  /** One file of it all, or one of each slide. */
  readonly each: 'talk' | 'slide'
  readonly without: LeftOut
  /** How what is said can be read, where it is known: as a track of text, if the format has a place for it, or as a part of the picture. */
  readonly captions: (typeof CAPTIONS_IN_FILE)[number]
  /** Without its ending; may hold fields, see `fileName`. */
  readonly name: string
  /** What stands for the name's own fields, by field. */
  readonly fields: Readonly<Record<string, string>>
  readonly limit: LimitRule
}

/** A size of the picture that is not the deck's shape: the slides fit into it with bars beside them, or fill it and lose their edges. */
export interface OwnSize {
  /** Even numbers of pixels. */
  readonly width: number
  readonly height: number
  readonly fit: 'bars' | 'fill'
}

/** What a recipe says when nobody said otherwise. */
export const USUAL_RECIPE: Omit<Recipe, 'name' | 'limit'> = {
  format: 'mp4',
  lines: 1080,
  size: null,
  rate: USUAL_RATE,
  quality: 'good',
  bits: FREE_BITS,
  loudness: USUAL_LOUDNESS,
  part: ALL_OF_IT,
  timing: 'recorded',
  each: 'talk',
  without: NOTHING_LEFT_OUT,
  captions: 'inside',
  fields: {},
}

/** What a recipe keeps for other talks: all but what belongs to one of them. */
export interface Preset extends Omit<Recipe, 'part' | 'fields' | 'limit'> {
  readonly limit: LimitRule['kind']
}
