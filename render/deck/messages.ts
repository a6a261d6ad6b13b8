import type { ClipStart, Composition, Motion, Ms, PageLink, Rect, RefusalCode, Size, Transition } from '@core/model'
import type { OfficeRecording, OfficeReport } from '@core/office'
import type { OfficeConverter } from '@render/office'

/** What the deck reader is asked, on its standard input. */
export interface ReadDeckOrder {
  readonly files: readonly { readonly path: string; readonly name: string }[]
  /** Folder for the pictures it makes. */
  readonly out: string
  readonly maxPages: number
  /** Most bytes that archives may unpack to, all together. */
  readonly maxUnpacked: number
  /** `slides`: a deck. `pictures`: to be placed on a slide that is made here. `clips`: films and sounds for a slide. */
  readonly purpose: 'slides' | 'pictures' | 'clips'
  /** What makes documents of office files; null: none are read. */
  readonly converter: OfficeConverter | null
}

/** Where a step's source is: one of the order's files, or one that was unpacked into the order's folder. */
export type StepSource = { readonly kind: 'file'; readonly file: number } | { readonly kind: 'unpacked'; readonly name: string }

export interface ReadStep {
  readonly source: StepSource
  readonly kind: 'page' | 'image'
  /** Counted from 1; 1 for a picture. */
  readonly page: number
  readonly size: Size
  readonly ground: string
  /** Files in the order's folder. */
  readonly screen: string
  readonly thumb: string
  readonly content: string
  readonly text: string
  /** Left out: none. */
  readonly links?: readonly PageLink[]
  /** As a step has it. */
  readonly reveal?: 'fade'
  readonly motions?: readonly Motion[]
  /** Which places for the inset are free on it, as `freePlaces` says; left out: that is not known. */
  readonly free?: string
}

/** A picture made ready to be placed on a slide: a file in the order's folder. */
export interface ReadPicture {
  readonly file: string
  readonly size: Size
  readonly alt: string
}

/** What an office file says of a slide, besides what is on it. */
export interface SlideFacts {
  readonly section: string
  readonly notes: string
  readonly description: string
  readonly skip: boolean
  readonly transition: Transition
  readonly planned: Ms | null
}

/** What an office file holds of the recording of a slide. */
export interface ReadRecording extends OfficeRecording {
  /** Which of the slides that were told, counted from 0. */
  readonly slide: number
  /** How many clicks each of its steps is seen after. */
  readonly states: readonly { readonly clicks: number }[]
  /** A recording in the order's folder; null: it has timings only. */
  readonly media: string | null
  readonly camera: boolean
  /** How long it is shown. */
  readonly shown: Ms
}

/** A film or a sound on a slide of an office file. */
export interface ReadClip {
  /** Which of the slides that were told, counted from 0, and which that is in its file, counted from 1. */
  readonly slide: number
  readonly number: number
  /** As it came, in the order's folder. */
  readonly media: string
  /** As the file calls it. */
  readonly name: string
  readonly trim: { readonly start: Ms; readonly end: Ms }
  readonly box: Rect | null
  readonly step: number
  readonly start: ClipStart
  readonly loop: boolean
}

/** What it answers, a line of JSON each. */
export type DeckMessage =
  | { readonly kind: 'plan'; readonly pages: number; readonly shape: Size }
  /** `adds`: it only adds to the slide before it. `facts`: what its file says of it; null when that says nothing. */
  | {
      readonly kind: 'slide'
      readonly title: string
      readonly steps: readonly ReadStep[]
      readonly adds: boolean
      readonly facts: SlideFacts | null
    }
  /** What came of an office file; it follows the file's slides. */
  | {
      readonly kind: 'office'
      readonly report: OfficeReport
      readonly recorded: readonly ReadRecording[]
      readonly clips: readonly ReadClip[]
    }
  /** A film or a sound that is none of a slide's. */
  | { readonly kind: 'film'; readonly source: StepSource; readonly name: string }
  | {
      readonly kind: 'composed'
      readonly composition: Omit<Composition, 'pictures'>
      readonly pictures: readonly ReadPicture[]
      readonly notes: string
      readonly viewerNotes: string
    }
  | { readonly kind: 'picture'; readonly picture: ReadPicture }
  | { readonly kind: 'refused'; readonly code: RefusalCode; readonly sentence: string; readonly file: string | null }
  | { readonly kind: 'done' }
