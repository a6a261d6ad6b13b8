import type {
  Clip,
  Composition,
  Drawing,
  Cue,
  Framing,
  Intent,
  Ms,
  Programme,
  Recipe,
  Said,
  Size,
  Slide,
  SlideId,
  Snapshot,
  Step,
  StillTimes,
  StretchId,
  TakeId,
  TakeKind,
  Transition,
  WindowView,
} from '@core/model'

export const ARCHIVE_KIND = 'talk-archive'
/** Grows when an older reader could not read it any more. */
export const ARCHIVE_VERSION = 1

/** A file of a deck, a picture of a slide, a clip: kept under the SHA-256 of its bytes. */
export interface ArchivedAsset {
  readonly digest: string
  readonly mime: string
  readonly bytes: number
  /** Where it lies in the archive. */
  readonly file: string
}

/** A slide, on the deck or off it. What is seen of it stands in its versions. */
export interface ArchivedSlide extends Pick<
  Slide,
  'id' | 'version' | 'title' | 'section' | 'notes' | 'viewerNotes' | 'description' | 'planned' | 'skip' | 'optional'
> {
  /** Its place in the deck; null: it is off it. */
  readonly position: number | null
}

/** What is seen of a slide in one of its versions. */
export interface ArchivedVersion {
  readonly slide: SlideId
  readonly version: number
  readonly steps: readonly Step[]
  readonly framing: Framing | null
  readonly proposedInset: NonNullable<Slide['proposedInset']> | null
  readonly composition: Composition | null
  readonly clips: readonly Clip[] | null
  readonly drawing: Drawing | null
  readonly transition: Transition
}

/** An unbroken part of a take. Its recording lies in its folder as it came; what is played is made of that as is said here. */
export interface ArchivedStretch {
  readonly id: StretchId
  readonly number: number
  readonly camera: boolean
  readonly voice: boolean
  readonly mime: string
  readonly opening: Snapshot
  readonly cues: readonly Cue[]
  readonly length: Ms
  /** How much of it counts; null: all. */
  readonly kept: Ms | null
  /** Where it begins in its recording, in ms, as the page said. */
  readonly offsets: { readonly picture: number; readonly sound: number }
  /** Where it was found to begin, in pictures and sound, in ms. */
  readonly pictureAt: number | null
  readonly soundAt: number | null
  readonly timing: 'measured' | 'approximate' | null
  /** How much faster the microphone's clock ran, in parts of a million. */
  readonly drift: number | null
  /** What was said last beyond its recording: when it begins, and its samples a second. */
  readonly tail: { readonly at: number; readonly rate: number } | null
  readonly peaks: readonly number[]
  readonly loudness: number | null
  readonly cameraLost: Ms
  readonly windowOf: StretchId | null
  readonly windowView: WindowView | null
  readonly stills: Readonly<Record<string, StillTimes>> | null
  /** Folder of its files; null: it has cues alone. */
  readonly folder: string | null
  /** SHA-256 of its recording as it came, and of the voice that was made of it. */
  readonly rawDigest: string | null
  readonly voiceDigest: string | null
}

export interface ArchivedTake {
  readonly id: TakeId
  readonly kind: TakeKind
  readonly intent: Intent
  readonly started: string
  readonly stretches: readonly ArchivedStretch[]
}

/** What is said in a stretch, and what was put right in it. */
export interface ArchivedWords {
  readonly stretch: StretchId
  /** What heard it; null: nothing was found. */
  readonly listenedBy: 'model' | 'folder' | 'pauses' | null
  readonly said: Said
  readonly corrections: readonly { readonly from: Ms; readonly until: Ms; readonly text: string; readonly brought: boolean }[]
}

/** A whole talk, as `talk.json` of an archive says it. */
export interface TalkArchive {
  readonly kind: typeof ARCHIVE_KIND
  readonly version: number
  readonly made: string
  readonly talk: {
    readonly name: string
    readonly limit: Ms | null
    readonly shape: Size
    readonly language: string
    readonly recipe: Recipe
    readonly terms: readonly string[]
    readonly presenter: string
    readonly description: string
  }
  readonly slides: readonly ArchivedSlide[]
  readonly versions: readonly ArchivedVersion[]
  readonly assets: readonly ArchivedAsset[]
  readonly takes: readonly ArchivedTake[]
  /** null: nothing is recorded. */
  readonly programme: Programme | null
  /** How the programme was at times that got a name. */
  readonly named: readonly { readonly name: string; readonly programme: Programme }[]
  readonly words: readonly ArchivedWords[]
  readonly links: readonly { readonly address: string; readonly title: string }[]
  /** Files that go with the talk, as they were called, by digest. */
  readonly files: readonly { readonly name: string; readonly digest: string }[]
}
