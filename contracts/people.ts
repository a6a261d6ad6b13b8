import type { Ms } from '@core/model'

/** Who may make an account for themselves: nobody, who is invited, who has an address of some domains, everybody. */
export const SIGN_UPS = ['off', 'invitation', 'domain', 'open'] as const
export type SignUp = (typeof SIGN_UPS)[number]

/** What a link does: makes an account, shows that an address is somebody's, sets a password. */
export const PERSON_LINK_KINDS = ['invite', 'verify', 'reset'] as const
export type PersonLinkKind = (typeof PERSON_LINK_KINDS)[number]

/** Somebody who is signed in, or the one person of a machine without accounts. */
export interface PersonView {
  readonly id: string
  readonly name: string
  readonly email: string | null
  /** Whether they run this server. */
  readonly operator: boolean
}

export interface SessionView {
  /** Whether this server asks people to sign in. */
  readonly accounts: boolean
  readonly person: PersonView | null
  /** Whether somebody has a talk for a call here without being signed in. */
  readonly guest: boolean
  readonly signUp: SignUp
  /** What the provider is called by which people may sign in as well; null: there is none. */
  readonly provider: string | null
}

/** What a link is for that somebody came by. */
export interface PersonLinkView {
  readonly kind: PersonLinkKind
  readonly address: string
}

/** A browser in which somebody is signed in. */
export interface PlaceSignedIn {
  readonly id: string
  /** Whether it is the one that asks. */
  readonly here: boolean
  /** What it is, in words; empty when it did not say. */
  readonly agent: string
  readonly since: string
  readonly seen: string
}

/** What somebody may keep and have made; null: as much as there is room for. */
export interface Quota {
  /** Bytes that all talks hold. */
  readonly bytes: number
  /** Minutes of films made in thirty days. */
  readonly filmMinutes: number | null
  /** Takes recorded at the same time. */
  readonly recordings: number | null
}

/** Of a quota, what is used. */
export interface QuotaUse {
  readonly bytes: number
  readonly filmMinutes: number
  readonly recordings: number
}

/** Somebody's own account. */
export interface AccountView {
  readonly quota: Quota
  readonly used: QuotaUse
  /** The talks that hold most, largest first. */
  readonly largest: readonly { readonly talk: string; readonly name: string; readonly bytes: number }[]
  /** Whether they sign in by a password, or by the provider alone. */
  readonly password: boolean
  /** When the account goes with all that is in it; null: it stays. */
  readonly goes: string | null
  /** After so long untouched a talk goes; null: never. */
  readonly keptUntouched: Ms | null
}

/** A person as operators see them: nothing of what they wrote or recorded. */
export interface PersonRow {
  readonly id: string
  readonly name: string
  readonly email: string
  readonly operator: boolean
  readonly blocked: boolean
  readonly verified: boolean
  /** When the account goes; null: it stays. */
  readonly goes: string | null
  readonly talks: number
  readonly bytes: number
  /** When they were here last; null: never. */
  readonly seen: string | null
  /** What they may keep of their own; null of each: as everybody. */
  readonly own: { readonly bytes: number | null; readonly filmMinutes: number | null; readonly recordings: number | null }
}

/** Some of the people of a server. */
export interface PeoplePage {
  readonly people: readonly PersonRow[]
  /** How many there are of what was looked for. */
  readonly count: number
  readonly invited: readonly { readonly address: string; readonly operator: boolean; readonly until: string }[]
  /** What everybody may keep. */
  readonly quota: Quota
}

/** What an operator changes of a person. */
export interface PersonChange {
  readonly operator?: boolean
  readonly blocked?: boolean
  readonly verified?: true
  readonly goes?: boolean
  readonly own?: PersonRow['own']
}
