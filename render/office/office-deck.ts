import type { ClipStart, Motion, Ms, Rect, Transition } from '@core/model'
import type { OfficeFinding, OfficeRecording } from '@core/office'

/** One state of a slide: a page of the document that is made of the deck. */
export interface OfficeState {
  /** How many clicks have been made when it is first seen. */
  readonly clicks: number
  /** What has come since the state before came over a while. */
  readonly soft: boolean
  readonly motions: readonly Motion[]
}

/** A sound or a film inside an office file. */
export interface OfficeMedia {
  readonly part: string
  /** How much of it is not played at its beginning and at its end, in ms. */
  readonly trim: { readonly start: Ms; readonly end: Ms }
}

/** A film or a sound on a slide that is not what was recorded on it. */
export interface SlideClip {
  readonly media: OfficeMedia
  readonly film: boolean
  /** Where it is, in fractions of the slide; null: nothing says so. */
  readonly box: Rect | null
  /** Which of the slide's states is the first that has it, counted from 0. */
  readonly state: number
  readonly start: ClipStart
  readonly loop: boolean
}

/** What was recorded on a slide. */
export interface SlideRecording extends OfficeRecording {
  /** Its voice, or its camera with the voice in it; null: it has timings only. */
  readonly media: OfficeMedia | null
  readonly camera: boolean
}

/** A slide as an office file has it. */
export interface OfficeSlide {
  /** Counted from 1, in the file. */
  readonly number: number
  readonly title: string
  /** Paragraphs parted by an empty line. */
  readonly notes: string
  /** What its pictures say that they show, in reading order, a line each. */
  readonly description: string
  /** Heading that begins with it; empty: none does. */
  readonly section: string
  readonly hidden: boolean
  /** BCP 47 tag of most of its words; empty when nothing says so. */
  readonly language: string
  readonly transition: Transition
  /** At least one. */
  readonly states: readonly OfficeState[]
  readonly recording: SlideRecording | null
  readonly clips: readonly SlideClip[]
}

/** An office deck made ready: a document with a page for each state of each slide, in order. */
export interface OfficeDeck {
  readonly slides: readonly OfficeSlide[]
  readonly findings: readonly OfficeFinding[]
}

/** Longest title, section and description that are kept, in signs. */
export const LONGEST = { title: 120, section: 120, description: 4000, notes: 20_000 } as const

/** Some programs write sounds as films; what they are called says what they are. */
export const isSound = (part: string): boolean => /\.(m4a|mp3|wav|wma|aac|aiff?|ogg|oga|opus|flac|mid)$/i.test(part)
