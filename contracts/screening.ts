import { Refusal } from '@core/model'
import type { Caption, DeliveryId, Film, GroupId, Ms, Picture, SharedFileId, Size, SlideId, TalkId } from '@core/model'
import type { ScreenedVisit } from '@core/screening'
import type { Saying } from '@core/words'
import type { FilmView } from './views'

export type { ScreenedVisit }

export const SHARE_LEVELS = ['closed', 'link', 'people', 'group', 'shelf'] as const
/**
 * Who may see a talk: nobody but its presenter, whoever has the link, people by their address, those of a group, or everybody who looks at
 * the shelf of this server.
 */
export type ShareLevel = (typeof SHARE_LEVELS)[number]

/** What a presenter says of a talk's screening page. */
export interface ShareFields {
  readonly level: ShareLevel
  /** Who presents it, as viewers read it; may be empty. */
  readonly presenter: string
  readonly description: string
  /** What viewers may take along: slides with their ink, and what was written for them. */
  readonly handout: boolean
  readonly viewerNotes: boolean
  /** A finished file that they may take along; null: none. */
  readonly film: DeliveryId | null
  /** Whether they may ask. */
  readonly questions: boolean
  /** From then on nobody sees it, as ISO 8601 says it; null: no such day. */
  readonly until: string | null
  /** Who may see it at the level `group`. */
  readonly group: GroupId | null
  /** Sites that may show the page within theirs, as origins. */
  readonly embedOn: readonly string[]
  /** Whether those who are named are told that their presenter sees who has watched to the end. */
  readonly reports: boolean
}

/** What a presenter changes of it. */
export interface ShareChange extends ShareFields {
  /** What has to be said besides; null: nothing any more; left out: as it is. */
  readonly phrase?: string | null
}

/** Somebody by their address. */
export interface PersonNamed {
  readonly address: string
  /** May be empty. */
  readonly name: string
}

/** People that somebody shares with, such as a class. */
export interface GroupView {
  readonly id: GroupId
  readonly name: string
  readonly members: readonly PersonNamed[]
}

export type GroupFields = Omit<GroupView, 'id'>

/** A letter that was sent by mail, or would have been. */
export interface LetterView {
  readonly id: string
  readonly recipient: string
  readonly subject: string
  /** null once it is sent: what is in it may open something. */
  readonly body: string | null
  /** It holds a link that is its reader's alone. */
  readonly private: boolean
  readonly state: 'waiting' | 'kept' | 'sent' | 'failed'
  /** What the mail server said when it did not take it. */
  readonly said: string | null
  readonly made: string
}

/** A file that goes with a talk: a worksheet, data. */
export interface SharedFile {
  readonly id: SharedFileId
  readonly name: string
  readonly bytes: number
}

/** A link that goes with a talk. */
export interface SharedLink {
  readonly address: string
  /** What it is called; empty: its address. */
  readonly title: string
  /** When it stands beside the film, in ms of the film; null: it is only listed below. */
  readonly during: { readonly from: Ms; readonly to: Ms } | null
}

export interface ShareView extends ShareFields {
  /** Address of the screening page. */
  readonly address: string
  /** Whether something has to be said besides. */
  readonly phrased: boolean
}

/** A slide's words on a screening page. */
export interface ScreenedSlide {
  readonly id: SlideId
  readonly number: number
  readonly title: string
  /** What can be read on it. */
  readonly text: string
  readonly viewerNotes: string
  /** What it shows, for those who do not see it; empty: nobody said. */
  readonly description: string
  /** As it looks in the end. */
  readonly picture: Picture
}

/** What viewers may take along. */
export interface TakeAlong {
  readonly handout: boolean
  readonly viewerNotes: boolean
  readonly film: { readonly file: string; readonly bytes: number } | null
}

/** All that a screening page says before anything is played. */
export interface ScreeningView {
  readonly title: string
  readonly presenter: string
  readonly description: string
  readonly language: string
  readonly shape: Size
  /** A recorded talk, or slides at their planned times while nothing is recorded. */
  readonly timing: 'recorded' | 'planned'
  /** Which version of the talk this is; another one means that it was changed. */
  readonly version: string
  readonly length: Ms
  /** Path under which its media can be had for some hours. */
  readonly media: string
  readonly face: boolean
  readonly voice: boolean
  readonly visits: readonly ScreenedVisit[]
  readonly slides: readonly ScreenedSlide[]
  /** What is said, in order; empty while nobody has listened to it. */
  readonly said: readonly Saying[]
  /** The same, as it is read with the film. */
  readonly captions: readonly Caption[]
  readonly take: TakeAlong
  readonly files: readonly SharedFile[]
  readonly links: readonly SharedLink[]
  readonly questions: boolean
  /** Lines of the films that it can be watched as, the smallest first; none while they are not made. */
  readonly films: readonly number[]
  /** Whether windows are shown of which a part was cut: they are seen in the films alone. */
  readonly windowsCut: boolean
  /** Whether their presenter sees that they have watched to the end: they are named, and are told so. */
  readonly reports: boolean
  /** What other pages may say of it, where everybody with the link may see it; null: nothing. */
  readonly abroad: { readonly address: string; readonly embeds: boolean; readonly found: boolean } | null
  /** Somebody is recording it at this moment, or what was recorded is being made ready. */
  readonly recording: boolean
}

/** What somebody is asked before they see a talk: the address that they were named by, or what has to be said. */
export type Asked = 'address' | 'phrase'

/** What a screening page is told: what it shows, or why it shows nothing. */
export type ScreeningAnswer =
  | { readonly kind: 'view'; readonly view: ScreeningView }
  | { readonly kind: 'refused'; readonly sentence: string }
  /** It has to be known who asks, or a phrase has to be said. */
  | { readonly kind: 'asks'; readonly asks: Asked }

/** A talk on the shelf, where everybody finds it. */
export interface ShelvedTalk {
  /** Path of its page, and of its first slide. */
  readonly path: string
  readonly picture: string
  readonly title: string
  readonly presenter: string
  readonly description: string
  readonly length: Ms | null
}

/** A presenter's series: talks in order, with a page of their own. */
export interface SeriesView extends Omit<SeriesFields, 'talks'> {
  readonly id: string
  readonly address: string
  readonly talks: readonly { readonly id: TalkId; readonly name: string; readonly level: ShareLevel }[]
}

export interface SeriesFields {
  readonly name: string
  readonly description: string
  /** Whether it stands on the shelf. */
  readonly shelved: boolean
  /** Who is written to when a new talk is there. */
  readonly group: GroupId | null
  readonly talks: readonly TalkId[]
}

/** A series as those see it who have its link. */
export interface SeriesPage {
  readonly name: string
  readonly description: string
  readonly path: string
  readonly shelved: boolean
  readonly talks: readonly {
    readonly key: string
    readonly title: string
    readonly presenter: string
    readonly description: string
    readonly length: Ms | null
    /** Whether nothing is asked first. */
    readonly open: boolean
    readonly changed: string
  }[]
}

/** A part of the shelf. */
export interface ShelfView {
  readonly talks: readonly ShelvedTalk[]
  /** Series that stand there, with how many talks each has. */
  readonly series: readonly { readonly path: string; readonly name: string; readonly description: string; readonly talks: number }[]
  /** How many there are, of those that were asked for. */
  readonly count: number
}

/** What a screening page is told that somebody is refused with; null for what is no refusal. */
export function screeningRefused(error: unknown): ScreeningAnswer | null {
  if (!(error instanceof Refusal)) return null
  const { asks } = error.detail
  return asks === 'address' || asks === 'phrase' ? { kind: 'asks', asks } : { kind: 'refused', sentence: error.message }
}

/** How a talk was watched: counts alone, but for those who were named and told so. */
export interface WatchedView {
  readonly visits: number
  readonly finished: number
  /** Days on which anybody watched, as ISO 8601 says them, the last first. */
  readonly days: readonly { readonly day: string; readonly visits: number; readonly finished: number }[]
  readonly length: Ms
  /** Parts of the film as it is now, in order: how many played them, went back to them, and left in them. */
  readonly parts: readonly { readonly at: Ms; readonly played: number; readonly back: number; readonly left: number }[]
  /** Who is named, and when they watched to the end; null where nobody was told that this is seen. */
  readonly people: readonly (PersonNamed & { readonly finished: string | null })[] | null
}

/** A film as it travels to those who watch. */
export type ViewersFilm = Omit<FilmView, 'peaks'>

export const filmOnItsWay = ({ programme, shape, slides, stretches }: Film): ViewersFilm => ({
  programme,
  shape,
  slides: [...slides.values()],
  stretches: [...stretches.values()],
})

/** A question as its asker, or whoever may read it, sees it. */
export interface QuestionView {
  readonly id: string
  /** Where in the film it was asked; null when what was on then is no longer in it. */
  readonly at: Ms | null
  readonly name: string
  readonly words: string
  readonly asked: string
  readonly answer: string | null
  /** Whether everybody who watches may read it. */
  readonly open: boolean
}

export interface AskRequest {
  readonly at: Ms
  readonly name: string
  readonly words: string
}

export interface AnswerRequest {
  readonly answer: string
  readonly open: boolean
}
