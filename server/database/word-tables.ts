import type { Said } from '@core/model'
import type { ListenedBy } from '@contracts'
import type { Generated, JSONColumnType } from 'kysely'

type Moment = Generated<Date>

export interface SpeechTable {
  /** The rehearsal or take that was heard. */
  source: string
  n: number
  talk: string
  words: number
  /** Pauses apart. */
  spoken_ms: number
  heard: Moment
}

export interface StretchWordsTable {
  stretch: string
  state: 'done' | 'failed'
  /** null: nothing was found, and the sentence says why. */
  listened_by: ListenedBy | null
  said: JSONColumnType<Said, string, string>
  sentence: string | null
  made: Moment
}

export interface WordCorrectionTable {
  id: string
  stretch: string
  from_ms: number
  until_ms: number
  text: string
  /** It came from a caption file. */
  brought: Generated<boolean>
}
