import type { Generated, JSONColumnType } from 'kysely'
import type { NewBackdrop } from '@core/model'
import type { BackdropState } from '@contracts'

/** A camera with another backdrop, as a film beside its recording. */
export interface BackdropFilmTable {
  id: string
  stretch: string
  /** Names all that decides it; its file in the cache is called so. */
  name: string
  backdrop: JSONColumnType<NewBackdrop>
  state: Generated<BackdropState>
  share: Generated<number>
  /** null while that is not known. */
  time_left_ms: number | null
  sentence: string | null
  /** Of the recording, and what making all of it took at once; null where that is not known. */
  length_ms: number | null
  took_ms: number | null
  made: Generated<Date>
}
