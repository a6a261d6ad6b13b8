import type { FileCompany, Rules } from '@core/rules'

/** Where files can be sent besides a desk: a folder that speaks WebDAV (RFC 4918), or a server that takes uploads by tus 1.0. */
export const PLACE_KINDS = ['webdav', 'tus'] as const
export type PlaceKind = (typeof PLACE_KINDS)[number]

/** A place of one's own. What signs in there is never told. */
export interface PlaceView {
  readonly id: string
  readonly name: string
  readonly kind: PlaceKind
  readonly address: string
  readonly user: string
}

/** Whom a file goes to: a desk or a site by their address, or a place of one's own. */
export const SENDING_KINDS = ['desk', 'site', 'place'] as const
export type SendingKind = (typeof SENDING_KINDS)[number]

export const SENDING_STATES = ['queued', 'sending', 'done', 'refused', 'failed', 'cancelled'] as const
export type SendingState = (typeof SENDING_STATES)[number]

/** What a desk, a site or a place says once it has a file. */
export interface Receipt {
  /** What it calls what it took. */
  readonly number: string
  /** ISO 8601. */
  readonly at: string
  /** Where it is to be found; null: nowhere that is told. */
  readonly page: string | null
}

/** A file on its way to somebody, or there. */
export interface SendingView {
  readonly id: string
  /** null: the file was deleted since. */
  readonly delivery: string | null
  readonly kind: SendingKind
  /** Whom it goes to, as people call them. */
  readonly to: string
  /** The file's name there. */
  readonly file: string
  /** SHA-256 of the file in hex; null until it was read. */
  readonly digest: string | null
  readonly state: SendingState
  readonly sent: number
  readonly total: number
  readonly sentence: string | null
  readonly receipt: Receipt | null
  readonly created: string
}

/** Rules that a person keeps. */
export interface RuleSetView {
  readonly id: string
  readonly rules: Rules
}

/** What was sent of a talk. */
export interface SentView {
  /** The newest first. */
  readonly sendings: readonly SendingView[]
  /** How often it was handed in at its desk. */
  readonly tries: number
}

/** A person's places, and what stands in for some. */
export interface PlacesView {
  readonly places: readonly PlaceView[]
  /** null: none run. */
  readonly standIns: StandIns | null
}

/** Who sees a film on a site. */
export const SITE_AUDIENCES = ['everybody', 'link', 'nobody'] as const
export type SiteAudience = (typeof SITE_AUDIENCES)[number]

/** What is said of a film on a site. */
export interface SiteNotes {
  readonly title: string
  readonly description: string
  readonly audience: SiteAudience
}

/** To whom a finished file is to be sent. */
export type SendingWish =
  | { readonly kind: 'desk' }
  | { readonly kind: 'place'; readonly place: string }
  | { readonly kind: 'site'; readonly address: string; readonly notes: SiteNotes }

/** How a talk is to be handed in. */
export interface HandInView extends SentView {
  /** null: none are chosen yet. */
  readonly rules: Rules | null
  /** Address of the desk that the rules came from; null: they came from elsewhere, and the file is handed in by hand. */
  readonly desk: string | null
  readonly fields: Readonly<Record<string, string>>
  /** Slide whose picture goes along; null: the first. */
  readonly cover: string | null
  /** Language of what is said, where that is known. */
  readonly words: string | null
}

/** Addresses of the stand-ins that ship with the product. */
export interface StandIns {
  readonly desk: string
  readonly site: string
}

/** What goes with a file of a talk when it is handed in. @param now ms since 1970 */
export const companyOf = ({ rules, fields, words, tries }: HandInView, now: number): FileCompany => ({
  words,
  // A slide's picture is drawn as large as is asked for.
  cover: rules?.cover ?? null,
  fields,
  now,
  tries,
})
