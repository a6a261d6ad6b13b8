import type { Caption, Ms, SlideId } from '@core/model'
import type { ScreenedVisit } from '@core/screening'
import type { Saying } from '@core/words'

/** A slide in a bundle. */
export interface BundleSlide {
  readonly id: SlideId
  readonly number: number
  readonly title: string
  /** What can be read on it. */
  readonly text: string
  /** For those who watch, as lines. */
  readonly viewerNotes: string
  /** What it shows, for those who do not see it; may be empty. */
  readonly description: string
  /** File of its picture, within the bundle. */
  readonly picture: string
  /** Addresses that it leads to. */
  readonly links: readonly string[]
}

/** What is played in a bundle: a film, or the voice alone under pictures; null: it was not recorded, and has pictures alone. */
export type BundleMedia = { readonly kind: 'film' | 'voice'; readonly file: string } | null

/** A file that lies in a bundle beside its page. */
export interface BundleFile {
  readonly file: string
  /** What it is, in words. */
  readonly says: string
}

/** All that the page of a bundle shows of a talk. */
export interface BundleTalk {
  readonly title: string
  /** May be empty. */
  readonly presenter: string
  /** May be empty. */
  readonly description: string
  /** BCP 47 tag. */
  readonly language: string
  readonly length: Ms
  readonly media: BundleMedia
  readonly visits: readonly ScreenedVisit[]
  readonly slides: readonly BundleSlide[]
  readonly said: readonly Saying[]
  readonly captions: readonly Caption[]
  readonly files: readonly BundleFile[]
}
