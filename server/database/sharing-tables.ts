import type { ShareLevel } from '@contracts'
import type { Generated } from 'kysely'

/*
 * Who may see a talk, what goes with it, and what those who watch it are sent and ask.
 */

type Moment = Generated<Date>

/** Who may see a talk on its screening page. */
export interface ShareTable {
  talk: string
  /** Whoever has it has the link. */
  key: string
  level: ShareLevel
  presenter: Generated<string>
  description: Generated<string>
  /** What may be taken along: slides with their ink, and what was written for viewers. */
  handout: Generated<boolean>
  viewer_notes: Generated<boolean>
  /** A finished file that may be taken along. */
  film: string | null
  questions: Generated<boolean>
  /** From then on nobody sees it; null: no such day. */
  until: Date | null
  /** What has to be said besides, hashed; null: nothing. */
  phrase: string | null
  /** Who may see it at the level of that name. */
  viewer_group: string | null
  /** Whether those who are named are told that their presenter sees who has finished. */
  reports: Generated<boolean>
  /** Sites that may show its page within theirs. */
  embed_on: Generated<string[]>
  changed: Moment
}

/** How often a talk was watched on a day. */
export interface WatchedDayTable {
  talk: string
  day: Date
  visits: number
  finished: number
}

/** How often five seconds of it were played, gone back to, and the last that was seen. */
export interface WatchedPartTable {
  talk: string
  visit: string
  part: number
  played: number
  gone_back: number
  gone: number
}

/** Somebody named who has watched to the end, where they were told that this is seen. */
export interface WatchedByTable {
  talk: string
  address: string
  finished: Moment
}

/** People that somebody shares with. */
export interface ViewerGroupTable {
  id: string
  owner: string
  name: string
  made: Moment
}

export interface GroupMemberTable {
  viewer_group: string
  address: string
  name: string
}

/** Somebody who may see a talk by their address. */
export interface SharePersonTable {
  talk: string
  address: string
  name: string
}

/** What was sent to an address, to show once that it is somebody's. */
export interface ViewerTicketTable {
  digest: string
  talk: string
  address: string
  until: Moment
  used: Date | null
}

/** A letter that is sent by mail, or kept to be looked at where there is none. */
export interface LetterTable {
  id: string
  owner: string
  recipient: string
  subject: string
  body: string | null
  state: Generated<'waiting' | 'kept' | 'sent' | 'failed'>
  said: string | null
  made: Moment
  /** A file that goes with it. */
  delivery: string | null
  /** It holds a link that is its reader's alone. */
  private: Generated<boolean>
}

/** A file that those who watch a talk may take along. */
export interface SharedFileTable {
  id: string
  talk: string
  digest: string
  name: string
  bytes: number
  added: Generated<Date>
}

/** A link that those who watch a talk find beside it. */
export interface SharedLinkTable {
  talk: string
  position: number
  address: string
  title: string
  /** From when to when it stands beside the film: visits and how far into them; all null: it is only listed. */
  from_visit: string | null
  from_into_ms: number | null
  to_visit: string | null
  to_into_ms: number | null
}

/** A talk as a film of one size for those who watch it. */
export interface StreamTable {
  talk: string
  programme_revision: number
  lines: number
  width: number
  height: number
  frame_rate: number
  /** Most bits a second. */
  bandwidth: number
  codec: string
  /** Where each part lies in its file. */
  playlist: string
  made: Moment
}

/** What somebody asked who watched. */
export interface QuestionTable {
  id: string
  talk: string
  /** The visit that was on, and how far into it that was. */
  visit: string
  into_ms: number
  name: string
  words: string
  asked: Moment
  answer: string | null
  answered: Date | null
  /** Whether everybody who watches may read it. */
  open: Generated<boolean>
}

/** Talks in order, with a page of their own. */
export interface SeriesTable {
  id: string
  owner: string
  /** Whoever has it has the link to its page. */
  key: string
  name: string
  description: Generated<string>
  /** Whether it stands on the shelf. */
  shelved: Generated<boolean>
  /** Who is written to when a new talk is there. */
  viewer_group: string | null
  made: Moment
}

export interface SeriesTalkTable {
  series: string
  position: number
  talk: string
  added: Moment
}

/** Somebody who wants no letters about a series. */
export interface SeriesUnwantedTable {
  series: string
  address: string
}
