import type { Ms, TalkExportId, TalkId } from '@core/model'

export const EXPORT_KINDS = ['bundle', 'small-bundle', 'shown', 'narrated-deck', 'archive'] as const
/**
 * What can be taken along of a talk. `bundle`: a folder that plays it without internet, with the film; `small-bundle`: the same with
 * pictures and voice instead. `shown`: slides as they were shown, as a PDF. `narrated-deck`: an office file with voice and face on its
 * slides. `archive`: all of it, in open formats.
 */
export type ExportKind = (typeof EXPORT_KINDS)[number]

export const EXPORT_STATES = ['queued', 'making', 'done', 'failed'] as const
export type ExportState = (typeof EXPORT_STATES)[number]

/** What one of them is to be like. */
export interface ExportWish {
  readonly kind: ExportKind
  /** Height of the film in a bundle, in pixels. */
  readonly lines: 480 | 720 | 1080
  /** Whether files that were made go into an archive. */
  readonly deliveries: boolean
}

/** Something that is made of a talk to be taken along. There is one of each kind. */
export interface TalkExportView extends ExportWish {
  readonly id: TalkExportId
  readonly state: ExportState
  /** How much of it is done, 0 to 1. */
  readonly share: number
  readonly file: string
  /** null: not there yet. */
  readonly bytes: number | null
  /** Length of the talk that it was made of. */
  readonly length: Ms | null
  /** Why it failed, or what is left out of it. */
  readonly sentence: string | null
  /** Whether the talk is still as it was. */
  readonly current: boolean
  readonly made: string
}

/** The archive of one of a person's talks. */
export interface AccountArchive {
  readonly talk: TalkId
  readonly name: string
  /** null: none was made yet. */
  readonly made: Pick<TalkExportView, 'state' | 'share' | 'bytes' | 'sentence' | 'current'> | null
}
