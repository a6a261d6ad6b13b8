import type {
  DeliveryFacts,
  DeliveryState,
  Intent,
  Ms,
  Picture,
  Preset,
  Programme,
  Recipe,
  Size,
  Slide,
  SlideId,
  Stretch,
  TakeKind,
  VisitId,
} from '@core/model'
import type { OfficeReport } from '@core/office'
import type { RunThrough } from '@core/pace'
import type { ChangeReason } from '@core/programme'

/** What is kept ready of a talk's card; the rest stands in its row. */
export type KeptCard = Omit<TalkCard, 'id' | 'name' | 'changed' | 'demo'>

/** In which order talks are shown: what waits for somebody first, what was changed last, by name. */
export const TALK_ORDERS = ['waiting', 'changed', 'name'] as const
export type TalkOrder = (typeof TALK_ORDERS)[number]

/** How many talks there are. */
export interface TalkCount {
  readonly all: number
  /** Of those that are looked for. */
  readonly found: number
  /** Whether all came with the product. */
  readonly examples: boolean
}

export interface TalkCard {
  readonly id: string
  readonly name: string
  readonly limit: Ms | null
  /** What its first slide shows. */
  readonly picture: Picture | null
  readonly timelineBlocks: readonly { readonly planned: Ms; readonly recorded: Ms }[]
  readonly deliveries: number
  readonly importing: boolean
  /** A take that was begun and not finished. */
  readonly unfinished: boolean
  /** It came with the product, to be played with. */
  readonly demo: boolean
  readonly changed: string
}

export const IMPORT_STATES = ['queued', 'reading', 'done', 'failed'] as const
export interface ImportView {
  readonly id: string
  readonly name: string
  readonly state: (typeof IMPORT_STATES)[number]
  readonly pagesDone: number
  readonly pagesTotal: number | null
  readonly sentence: string | null
  /** Slides next to each other that each only add to the one before: they may be steps of one slide. */
  readonly builds: readonly (readonly SlideId[])[]
  /** What it has put in so far. */
  readonly slides: readonly SlideId[]
  /** What came of office files; empty for others. */
  readonly reports: readonly OfficeReport[]
  /** Somebody has read that. */
  readonly reportSeen: boolean
  /** The take that the recording of an office deck became. */
  readonly take: string | null
  /**
   * It is to take the place of the deck: it waits to be looked at, was taken over, was given back, or left. null: its slides are put into
   * the deck.
   */
  readonly replaces: 'waiting' | 'taken' | 'given-back' | 'dropped' | null
}

/** Which slide of a deck that was brought is which of the talk's. */
export interface DeckMatchView {
  readonly pairs: readonly {
    readonly slide: SlideId
    readonly brought: SlideId
    /** 0 to 1. */
    readonly likeness: number
    readonly sure: boolean
    readonly changed: boolean
  }[]
}

/** A deck that was brought to take the place of the talk's. */
export interface BroughtDeck extends DeckMatchView {
  readonly slides: readonly Slide[]
}

/** A browser that records: its own id, and what a person would call it. */
export interface TakePlace {
  readonly browser: string
  readonly name: string
}

export const TAKE_STATES = ['open', 'closing', 'closed', 'failed', 'discarded'] as const
export interface TakeView {
  readonly id: string
  readonly kind: TakeKind
  readonly intent: Intent
  readonly state: (typeof TAKE_STATES)[number]
  readonly started: string
  readonly length: Ms
  readonly sentence: string | null
  /** Some browser is recording it. */
  readonly live: boolean
}

/** One run-through, by when it was begun. */
export interface RehearsalView extends RunThrough {
  readonly id: string
  readonly started: string
}

export interface TalkView {
  readonly id: string
  readonly name: string
  readonly limit: Ms | null
  readonly shape: Size
  /** BCP 47 tag of the language it is given in. */
  readonly language: string
  /** Words a minute at which its presenter speaks, as far as known. */
  readonly rate: number
  /** Of the deck; every change names the one that it was made on. */
  readonly revision: number
  readonly slides: readonly Slide[]
  readonly takes: readonly TakeView[]
  readonly imports: readonly ImportView[]
  /** The newest first. */
  readonly rehearsals: readonly RehearsalView[]
  readonly recipe: Recipe
  readonly changed: string
  /** The call for which it is made; null: for none. */
  readonly call: { readonly title: string; readonly page: string; /** Whether its owner has no account. */ readonly guest: boolean } | null
}

/** How a programme came about: by a change, by taking one back, or by taking that back. */
export const CHANGE_ROLES = ['edit', 'undo', 'redo'] as const
export type ChangeRole = (typeof CHANGE_ROLES)[number]

/** Takes another recording of a visit's slide: the page names it, and the server knows its pieces. */
export interface UseRequest {
  readonly visit: VisitId
  readonly take: string
  readonly showing: VisitId
  /** Tells it from another showing of the same recording. */
  readonly name: string
}

/** One recording of a slide: what a visit could be made of. */
export interface RecordingView {
  readonly take: string
  readonly kind: TakeKind
  readonly started: string
  /** The visit that it is when it is taken into the talk. */
  readonly showing: VisitId
  readonly length: Ms
  /** Where it lies in its stretches, and what it sounds like. */
  readonly parts: readonly {
    readonly stretch: string
    readonly from: Ms
    readonly to: Ms
    readonly voice: boolean
    readonly peaks: readonly number[]
  }[]
}

/** One change of a programme. */
export interface ChangeView {
  readonly revision: number
  readonly made: string
  /** What was done, in a few words. */
  readonly reason: ChangeReason
  readonly role: ChangeRole
  readonly length: Ms
  /** What this version was named. */
  readonly name: string | null
}

/** How a programme came to be as it is. */
export interface HistoryView {
  /** The newest first. */
  readonly changes: readonly ChangeView[]
  /** What the one who asks can take back next, and what they can do again. */
  readonly undo: ChangeReason | null
  readonly redo: ChangeReason | null
  /** Visits that differ from what was delivered last; null when nothing was. */
  readonly sinceDelivery: number | null
}

/** What a change of the programme answers: what it is now, and how it came to be. */
export interface ProgrammeAnswer {
  readonly programme: Programme
  readonly history: HistoryView
}

/** A film as it travels: maps become lists. */
export interface FilmView {
  readonly programme: Programme
  readonly shape: Size
  readonly slides: readonly Slide[]
  readonly stretches: readonly Stretch[]
  /** Loudness outline of each stretch by id, a number from 0 to 255 each twentieth of a second. */
  readonly peaks: Readonly<Record<string, readonly number[]>>
}

export interface EstimateView {
  readonly bytes: number
  readonly time: Ms
  /** How far both may be off, as parts of what comes. */
  readonly within: { readonly size: number; readonly time: number }
  readonly length: Ms
  readonly width: number
  readonly height: number
  readonly free: number
}

export interface DeliveryView {
  readonly id: string
  readonly recipe: Recipe
  readonly file: string
  readonly state: DeliveryState
  readonly length: Ms
  readonly width: number
  readonly height: number
  readonly framesDone: number
  readonly framesTotal: number
  readonly timeLeft: Ms | null
  readonly estimate: { readonly bytes: number; readonly time: Ms }
  readonly sentence: string | null
  readonly facts: DeliveryFacts | null
  readonly created: string
  /** Of the programme that it is made from; null: of planned times. */
  readonly revision: number | null
  /** Not begun before; null: as soon as can be. */
  readonly starts: string | null
  /** Of those that wait, lower ones are made first. */
  readonly place: number
}

/** A recipe that a person keeps for other talks. */
export interface PresetView {
  readonly id: string
  readonly name: string
  readonly preset: Preset
}

/** Told to every page that has the talk open; the page then asks for what it shows. */
export interface TalkEvent {
  readonly talk: string
  readonly kind:
    | 'deck'
    | 'import'
    | 'take'
    | 'programme'
    | 'delivery'
    | 'estimate'
    | 'talk'
    | 'share'
    | 'question'
    | 'words'
    | 'sending'
    | 'entry'
    | 'export'
    | 'backdrop'
    | 'owner'
  readonly id: string | null
}
