import type { EntryState, LateWay, Review } from '@core/calls'
import type { FileFacts, RuleLine, Rules } from '@core/rules'
import type { AddressWish, CallAudience, Companion } from '@contracts'
import type { Generated, GeneratedAlways, JSONColumnType } from 'kysely'

/** A call for talks. */
export interface CallTable {
  id: string
  owner: string
  /** Whoever has it has the link. */
  key: string
  title: string
  asks: string
  rules: JSONColumnType<Rules, string, string>
  rules_version: Generated<number>
  until: Date
  late: LateWay
  faulty: LateWay
  audience: CallAudience
  viewer_group: string | null
  accounts: boolean
  address: AddressWish
  /** A talk whose deck everybody begins with. */
  deck: string | null
  deleted: Date | null
  made: Generated<Date>
}

/** Somebody whom a call is for, by their address. */
export interface CallPersonTable {
  call: string
  address: string
  name: string
}

/** Somebody's part in a call. */
export interface EntrantTable {
  id: string
  call: string
  /** null: not begun. */
  person: string | null
  talk: string | null
  name: string
  address: string | null
  /** Of the link that is theirs: an older one opens nothing. */
  link_number: Generated<number>
  /** Rules by which they began. */
  rules_version: number
  begun: Date | null
  invited: Date | null
  reminded: Date | null
}

/** Something that was handed in. */
export interface EntryTable {
  id: string
  entrant: string
  number: GeneratedAlways<number>
  /** null: recorded elsewhere, or deleted since. */
  delivery: string | null
  brought: boolean
  state: EntryState
  at: Generated<Date>
  late: boolean
  title: string
  file: string
  fields: JSONColumnType<Readonly<Record<string, string>>, string, string>
  digest: string | null
  facts: JSONColumnType<FileFacts, string, string> | null
  lines: JSONColumnType<readonly RuleLine[], string | undefined, string>
  companions: JSONColumnType<readonly Companion[], string | undefined, string>
  sentence: string | null
  review: Generated<Review>
  remark: Generated<string>
  remarked: Date | null
}
