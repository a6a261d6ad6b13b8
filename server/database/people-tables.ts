import type { PersonLinkKind } from '@contracts'
import type { Generated } from 'kysely'

type Moment = Generated<Date>

export interface PersonTable {
  id: string
  name: string
  email: string | null
  /** Hashed; null: nobody signs in by one. */
  password: string | null
  /** Somebody without an account, who has talks for calls alone. */
  guest: Generated<boolean>
  operator: Generated<boolean>
  /** Since when nobody signs in by it; null: it is open. */
  blocked: Generated<Date | null>
  /** When the address was shown to be theirs. */
  verified: Generated<Date | null>
  /** Since when it is to go; null: it stays. */
  leaving: Generated<Date | null>
  created: Moment
  /** What this person may keep and have made, see the settings of these names; null: as everybody. */
  most_bytes: Generated<number | null>
  most_film_minutes: Generated<number | null>
  most_recordings: Generated<number | null>
}

/** A browser in which somebody is signed in. */
export interface SignedInTable {
  id: string
  person: string
  since: Moment
  until: Date
  /** What it is, in words; empty when it did not say. */
  agent: Generated<string>
  /** When it asked for something last, to within some minutes. */
  seen: Moment
}

/** A link that makes an account, shows that an address is somebody's, or sets a password. */
export interface PersonLinkTable {
  /** Of its key. */
  digest: string
  kind: PersonLinkKind
  address: string
  person: string | null
  operator: Generated<boolean>
  made_by: string | null
  made: Moment
  until: Date
}

/** A person as a provider of identities knows them. */
export interface IdentityTable {
  issuer: string
  subject: string
  person: string
  made: Moment
}
