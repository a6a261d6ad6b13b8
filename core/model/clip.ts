import type { PixelBox, Rect, Size } from './geometry'
import type { AssetId, ClipId } from './id'
import type { Ms, Ratio } from './time'

/** What a clip plays: made once of what was brought, in a form that every browser plays. */
export interface ClipMedia {
  /** MP4: H.264 at a constant rate without B-frames, and AAC; of a sound AAC alone. */
  readonly file: AssetId
  readonly length: Ms
  /** null: it is a sound, and nothing is seen of it. */
  readonly picture: ClipPicture | null
  /** Whether there is sound in it. */
  readonly sound: boolean
  /** Integrated loudness of its sound in LUFS; null: it has none, or is too quiet to say. */
  readonly loudness: number | null
}

export interface ClipPicture {
  readonly size: Size
  /** Pictures a second. */
  readonly rate: Ratio
  /** Its first picture, as JPEG. */
  readonly poster: AssetId
}

export const CLIP_STARTS = ['step', 'click'] as const
/** Whether a clip begins with the step that brings it, or when the presenter starts it. */
export type ClipStart = (typeof CLIP_STARTS)[number]

/** A moving picture or a sound that belongs to a slide. */
export interface Clip {
  readonly id: ClipId
  /** As its file was called. */
  readonly name: string
  readonly media: ClipMedia
  /** Where it is seen, in fractions of the slide. Its picture fills it as far as its shape allows. */
  readonly box: Rect
  /** The first step that has it. */
  readonly step: number
  readonly start: ClipStart
  /** Which part of it is played, in its own time. */
  readonly from: Ms
  readonly to: Ms
  /** Whether it begins again when it is over. */
  readonly loop: boolean
  /** How much louder it is played than speech, in dB. */
  readonly gain: number
  /** Recorded from a window at the Lectern: it is seen only where a recording plays it. Left out: it was brought. */
  readonly captured?: boolean
  /** Which part of its picture is seen, in fractions of it; left out: all. */
  readonly crop?: Rect
}

/**
 * A clip that was started: `place` ms of it had been played at the time `at` of its stretch, counted from where it begins. It may be
 * longer than the clip, which is over then.
 */
export interface PlayedClip {
  readonly clip: ClipId
  readonly at: Ms
  readonly place: Ms
  readonly playing: boolean
}

/** How long the part of a clip is that is played. */
export const clipLength = ({ from, to }: Pick<Clip, 'from' | 'to'>): Ms => to - from

const NONE: readonly Clip[] = []

/** Clips that a step of a slide has. */
export const clipsOfStep = ({ clips = NONE }: { readonly clips?: readonly Clip[] }, step: number): readonly Clip[] =>
  clips.filter((clip) => clip.step <= step)

/** What is seen of a clip's picture, in its own pixels; null for a sound. */
export function pictureBox({ media, crop }: Pick<Clip, 'media' | 'crop'>): PixelBox | null {
  if (media.picture === null) return null
  const { width, height } = media.picture.size
  if (crop === undefined) return { x: 0, y: 0, width, height }
  const [x, y] = [Math.round(crop.x * width), Math.round(crop.y * height)]
  const most = (length: number, share: number, at: number): number => Math.max(1, Math.min(Math.round(share * length), length - at))
  return { x, y, width: most(width, crop.w, x), height: most(height, crop.h, y) }
}

/** Clips of a slide that were brought for it, not recorded from a window while it was shown. */
export const broughtClips = ({ clips = NONE }: { readonly clips?: readonly Clip[] }): readonly Clip[] =>
  clips.filter(({ captured }) => captured !== true)

/** How many clips may be brought for a slide, and how many it may have with those that were recorded from windows. */
export const MOST_CLIPS = 8
export const MOST_WITH_CAPTURED = 200
/** Smallest part of a clip's picture that can be shown, as a share of its width and height. */
export const SMALLEST_CROP = 0.1
/** Shortest part of a clip that can be played. */
export const SHORTEST_CLIP: Ms = 40
/** How much softer and louder than speech a clip may be played, and is unless somebody says otherwise, in dB. */
export const CLIP_GAIN = { least: -30, most: 10, usual: 0 } as const
