import type { ClipMedia } from './clip'
import type { Theme } from './composition'
import type { Point, Rect, Size } from './geometry'
import type { AssetId, BedId, OverlayId, StretchId, VisitId } from './id'
import type { Ms } from './time'

/** Something that hangs on a visit, so that it goes wherever that goes. */
interface OnVisit {
  readonly visit: VisitId
  /** When it begins, in ms from the beginning of its visit; before that where a part of a talk begins later than it does. */
  readonly offset: Ms
}

interface OverVisit extends OnVisit {
  readonly id: OverlayId
  readonly length: Ms
}

/** Covers the whole picture, face and all: an opening, a closing, a chapter. */
export interface CardOverlay extends OverVisit {
  readonly kind: 'card'
  readonly theme: Theme
  /** One line of CommonMark inlines. */
  readonly heading: string
  /** CommonMark blocks. */
  readonly body: string
}

/** A plate with words on it. */
interface PlateOverlay extends OverVisit {
  readonly theme: Theme
  /** Upper left corner of its plate, in fractions of the frame; null: where it hides least, and never the face. */
  readonly at: Point | null
}

/** Who is speaking, and where from. */
export interface LowerThirdOverlay extends PlateOverlay {
  readonly kind: 'lower-third'
  readonly name: string
  /** What stands under the name; may be empty. */
  readonly place: string
}

/** A line of text. */
export interface TextOverlay extends PlateOverlay {
  readonly kind: 'text'
  readonly text: string
}

/** A picture over slides. */
export interface PictureOverlay extends OverVisit {
  readonly kind: 'picture'
  readonly asset: AssetId
  readonly size: Size
  /** What it shows, for those who do not see it. */
  readonly alt: string
  /** In fractions of the frame; the picture fills it as far as its shape allows. */
  readonly box: Rect
}

/** Something that lies over a talk for a while. */
export type Overlay = CardOverlay | LowerThirdOverlay | TextOverlay | PictureOverlay
export type OverlayKind = Overlay['kind']

/** Music under a talk, or in place of its voice. */
export interface Bed extends OnVisit {
  readonly id: BedId
  /** As its file was called, or one of those that ship. */
  readonly name: string
  /** A sound; its picture is null. */
  readonly media: ClipMedia
  /** null: to the end of the talk. */
  readonly length: Ms | null
  /** Where in its file it begins. */
  readonly from: Ms
  /** Whether its file begins again when it is over. */
  readonly repeat: boolean
  readonly fadeIn: Ms
  readonly fadeOut: Ms
  /** How much louder it is than speech where nobody speaks, in dB. */
  readonly gain: number
  /** Whether nothing is heard of the voice meanwhile. */
  readonly instead: boolean
  /** Where it is from; may be empty. */
  readonly credit: string
}

/** How noise of the room is taken down: by a network that has learned what speech is, or by a gate for each part of the spectrum. */
export const NOISE_WAYS = ['learned', 'gated'] as const
export type NoiseWay = (typeof NOISE_WAYS)[number]
export const HUMS = ['50 Hz', '60 Hz'] as const
/** Frequency of the mains. */
export type Hum = (typeof HUMS)[number]

/** What is done to a voice. */
export interface VoiceTreatment {
  /** null: nothing. */
  readonly noise: NoiseWay | null
  /** What hums; null: nothing does, or it is left. */
  readonly hum: Hum | null
  /** Whether what is lower than any voice is taken out. */
  readonly rumble: boolean
  /** Whether a harsh s is softened. */
  readonly sibilance: boolean
  /** Whether soft sentences are raised and loud ones lowered. */
  readonly level: boolean
}
export const UNTREATED: VoiceTreatment = { noise: null, hum: null, rumble: false, sibilance: false, level: false }

/** What is said of recordings, and otherwise of some visits. */
export interface ByRecording<Value> {
  readonly stretches: Readonly<Record<StretchId, Value>>
  readonly visits: Readonly<Record<VisitId, Value>>
}
/** What is done to voices. */
export type VoiceTreatments = ByRecording<VoiceTreatment>
export const NO_VOICES: VoiceTreatments = { stretches: {}, visits: {} }

/** The light of a camera picture. */
export interface Light {
  /** How much brighter it is, as a share of white. */
  readonly brightness: number
  /** How far apart dark and bright are: 1 as filmed. */
  readonly contrast: number
  /** Warmer above 0, colder below. */
  readonly warmth: number
}
export type Lights = ByRecording<Light>
export const NO_LIGHTS: Lights = { stretches: {}, visits: {} }
export const AS_FILMED: Light = { brightness: 0, contrast: 1, warmth: 0 }
export const LIGHT_RANGE = {
  brightness: { least: -0.3, most: 0.3 },
  contrast: { least: 0.6, most: 1.6 },
  warmth: { least: -1, most: 1 },
} as const

/** How the presenter is told from what is behind: by their outline, or by a cloth of one colour that hangs there. */
export const BACKDROP_FINDERS = ['outline', 'cloth'] as const
export type BackdropFinder = (typeof BACKDROP_FINDERS)[number]

/** Pictures a second of a camera whose backdrop is another. */
export const BACKDROP_RATE = 30

/** What is seen behind the presenter instead of the room. */
export type NewBackdrop = { readonly finder: BackdropFinder } &
  /** The room, out of focus. */
  (
    | { readonly kind: 'soft' }
    /** One colour, as `#RRGGBB`. */
    | { readonly kind: 'plain'; readonly colour: string }
    /** A picture, which fills all of it. */
    | { readonly kind: 'picture'; readonly asset: AssetId }
  )
/** What is seen behind the presenter. */
export type Backdrop = NewBackdrop | { readonly kind: 'filmed' }
export type Backdrops = ByRecording<Backdrop>
export const NO_BACKDROPS: Backdrops = { stretches: {}, visits: {} }
export const ROOM: Backdrop = { kind: 'filmed' }

/** How much softer and louder than speech music may be, and is unless somebody says otherwise, in dB. */
export const BED_GAIN = { least: -40, most: 6, usual: -9 } as const
/** Longest that music may take to come or go, in ms. */
export const LONGEST_FADE: Ms = 30_000
/** Shortest and longest that something may lie over a talk, in ms. */
export const OVERLAY_LENGTH = { least: 500, most: 3_600_000 } as const
/** Shortest that music may be heard, in ms. */
export const SHORTEST_BED: Ms = 500
/** How much of each kind a talk may have. */
export const MOST_OVERLAYS = 200
export const MOST_BEDS = 24
/** Signs of a card's heading, of what stands under it, and of the words on a plate, at most. */
export const MOST_WORDS_OVER = { heading: 300, body: 2000, plate: 300, credit: 300 } as const
