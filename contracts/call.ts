import type { EntryState, LateWay, Review } from '@core/calls'
import type { GroupId, Ms } from '@core/model'
import type { RuleLine, Rules } from '@core/rules'
import type { PersonNamed } from './screening'

/** Whom a call is for: whoever has its link, a group, or people by their addresses. */
export const CALL_AUDIENCES = ['link', 'group', 'people'] as const
export type CallAudience = (typeof CALL_AUDIENCES)[number]

/** Whether those who come by a link say an address. */
export const ADDRESS_WISHES = ['no', 'optional', 'required'] as const
export type AddressWish = (typeof ADDRESS_WISHES)[number]

/** What somebody says who calls for talks. */
export interface CallFields {
  readonly title: string
  /** What is asked, in as many words as it needs. */
  readonly asks: string
  readonly rules: Rules
  /** Its last moment, ISO 8601. */
  readonly until: string
  /** What happens to what comes later, and to what does not keep the rules. */
  readonly late: LateWay
  readonly faulty: LateWay
  readonly audience: CallAudience
  readonly group: GroupId | null
  readonly people: readonly PersonNamed[]
  /** Whether entrants sign in. */
  readonly accounts: boolean
  readonly address: AddressWish
  /** A talk whose deck everybody begins with; null: none. */
  readonly deck: string | null
}

/** How many of a call's people came how far. */
export interface CallCounts {
  readonly begun: number
  readonly handedIn: number
  /** Handed in and not looked at yet. */
  readonly unseen: number
  /** Listed, and nothing is handed in. */
  readonly missing: number
}

/** A call as whoever made it sees it. */
export interface CallView extends CallFields {
  readonly id: string
  readonly link: string
  readonly made: string
  /** Changes when its rules do. */
  readonly rulesVersion: number
  readonly counts: CallCounts
  /** How many began by rules that were changed since: they are held to those. */
  readonly earlierRules: number
}

/** What of a call its owner can change. */
export const fieldsOfCall = ({
  id: _,
  link: __,
  made: ___,
  rulesVersion: ____,
  counts: _____,
  earlierRules: ______,
  ...fields
}: CallView): CallFields => fields

/** A file that goes with an entry's film. */
export const COMPANION_ROLES = ['captions', 'transcript', 'cover'] as const
export type CompanionRole = (typeof COMPANION_ROLES)[number]

export interface Companion {
  readonly role: CompanionRole
  /** Ending of its name, without the dot. */
  readonly ending: string
}

/** Something that was handed in. */
export interface EntryView {
  readonly id: string
  readonly state: EntryState
  /** When it was handed in, ISO 8601: it counts as then, also where its file was there later. */
  readonly at: string
  readonly late: boolean
  /** The film's name. */
  readonly file: string
  /** The talk's name at that time. */
  readonly title: string
  /** null: not known yet. */
  readonly length: Ms | null
  readonly bytes: number | null
  /** SHA-256 of the film in hex; null: it is not there yet. */
  readonly digest: string | null
  /** How it was held against the rules; empty as long as it is not. */
  readonly lines: readonly RuleLine[]
  readonly companions: readonly Companion[]
  /** Why it was not taken; null: it was, or is not known yet. */
  readonly sentence: string | null
  readonly review: Review
  readonly remark: string
  readonly remarkedAt: string | null
  /** Whether it was recorded elsewhere. */
  readonly brought: boolean
  /** Type that a browser is told; null: none plays it. */
  readonly plays: string | null
}

/** A line of the register: somebody, and what counts of what they handed in. */
export interface RegisterRow {
  readonly entrant: string
  readonly name: string
  readonly address: string | null
  readonly begun: string | null
  readonly reminded: string | null
  /** null: nothing was taken yet. */
  readonly entry: EntryView | null
  /** How often they handed in. */
  readonly entries: number
  /** Whether they are held to rules that were changed since. */
  readonly earlierRules: boolean
  /** Length that they are held to, in ms; null: any. */
  readonly limit: Ms | null
}

export interface RegisterView {
  readonly call: CallView
  /** The newest entry first; those who have handed in nothing last, by name. */
  readonly rows: readonly RegisterRow[]
}

/** Somebody's part in a call as this browser knows them. */
export interface OwnPart {
  readonly name: string
  /** null: not begun, or deleted. */
  readonly talk: string | null
}

/** A call as those see it who are asked. */
export interface CallSheet {
  readonly title: string
  readonly asks: string
  /** Who asks; empty: nobody is named on this server. */
  readonly organiser: string
  readonly rules: Rules
  readonly until: string
  readonly late: LateWay
  readonly over: boolean
  readonly withdrawn: boolean
  /** Whether it is for those who are listed: they come by a link of their own. */
  readonly listed: boolean
  readonly accounts: boolean
  readonly signedIn: boolean
  readonly address: AddressWish
  /** Whether there is a deck to begin with. */
  readonly deck: boolean
  /** null: nobody here has begun. */
  readonly own: OwnPart | null
}

/** What somebody gets who begins: their talk, and the link by which they find it again. */
export interface BegunView {
  readonly talk: string
  readonly link: string
}

/** A talk's part in a call, for whom it is. */
export interface EntrantView {
  readonly title: string
  readonly asks: string
  readonly organiser: string
  readonly until: string
  readonly late: LateWay
  readonly faulty: LateWay
  readonly name: string
  readonly address: string | null
  /** Link by which they find their talk again; null: they sign in. */
  readonly link: string | null
  /** Rules of the call where they were changed since this talk was begun; null: they were not. */
  readonly newRules: Rules | null
  /** The newest first. */
  readonly entries: readonly EntryView[]
  /** Why nothing is taken now; null: something is. */
  readonly closed: string | null
  /** Whether what is handed in now is late. */
  readonly wouldBeLate: boolean
}
