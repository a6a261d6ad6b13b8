import type { ExportKind, ExportState, ExportWish } from '@contracts'
import type { Generated } from 'kysely'

/** Something that is made of a talk to be taken along; one of each kind. */
export interface TalkExportTable {
  id: string
  talk: string
  kind: ExportKind
  lines: ExportWish['lines']
  deliveries: boolean
  state: Generated<ExportState>
  share: Generated<number>
  file: string
  bytes: number | null
  length_ms: number | null
  /** Of what it was made; null before that is known. */
  talk_revision: number | null
  programme_revision: number | null
  sentence: string | null
  /** Grows when it is ordered anew: whoever makes it for an earlier turn is to end. */
  turn: Generated<number>
  made: Generated<Date>
}
