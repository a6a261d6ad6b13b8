import type { Rules } from '@core/rules'
import type { PlaceKind, Receipt, SendingKind, SendingState, SiteNotes } from '@contracts'
import type { Generated, GeneratedAlways, JSONColumnType } from 'kysely'

/** Rules that a person keeps for other talks. */
export interface RuleSetTable {
  id: string
  owner: string
  name: string
  rules: JSONColumnType<Rules, string, string>
  made: Generated<Date>
}

/** How a talk is to be handed in. */
export interface HandInTable {
  talk: string
  rules: JSONColumnType<Rules, string, string>
  /** Address of the desk; null: the rules came from elsewhere. */
  desk: string | null
  fields: JSONColumnType<Readonly<Record<string, string>>, string | undefined, string>
  cover: string | null
}

/** Somewhere that a person sends files to. */
export interface PlaceTable {
  id: string
  owner: string
  name: string
  kind: PlaceKind
  address: string
  username: string
  /** Sealed. */
  word: Buffer | null
  made: Generated<Date>
}

/** What goes with a file that is sent. */
export type SendingNotes =
  | { readonly kind: 'none' }
  | { readonly kind: 'fields'; readonly fields: Readonly<Record<string, string>> }
  | ({ readonly kind: 'site' } & SiteNotes)

/** How far a sending came: what the other side calls it, and the address of each upload. */
export interface ResumePoint {
  readonly package?: string
  readonly uploads?: Readonly<Record<string, string>>
}

export interface SendingTable {
  id: string
  talk: string
  delivery: string | null
  number: GeneratedAlways<number>
  kind: SendingKind
  recipient: string
  address: string
  place: string | null
  file: string
  digest: string | null
  state: Generated<SendingState>
  sent: Generated<number>
  total: number
  notes: JSONColumnType<SendingNotes, string, string>
  resume: JSONColumnType<ResumePoint, string | undefined, string>
  sentence: string | null
  receipt: JSONColumnType<Receipt, string, string> | null
  created: Generated<Date>
}
