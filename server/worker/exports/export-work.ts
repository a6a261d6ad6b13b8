import type { Ms } from '@core/model'
import type { Database } from '@server/database'
import { isExportWanted, noteExportShare } from '@server/domain'
import type { ExportToMake } from '@server/domain'
import { settings } from '@server/settings'
import type { EncodeOptions, PictureWatch } from '../tasks/encode-options'
import { WhileNeeded } from '../tasks/while-needed'

/** What one export is made with. */
export interface ExportWork {
  readonly db: Database
  readonly of: ExportToMake
  /** The file that is made. */
  readonly out: string
  /** Folder for what it is made of, gone afterwards. */
  readonly folder: string
  /** Tells apart what several make at a time. */
  readonly label: string
  readonly watch: ExportWatch
}

/** What is known of a file that was made. */
export interface ExportFacts {
  readonly length: Ms | null
  /** What is to be known of it; null: nothing. */
  readonly sentence: string | null
}

export type ExportMaker = (work: ExportWork) => Promise<ExportFacts>

/** How the pictures of an export are made: on every core, since somebody waits for them, but after films and takes. */
export const exportOptions = (label: string): EncodeOptions => ({
  label,
  preview: null,
  lanes: settings().encoderThreads,
  first: 'long',
})

/** Watches over an export for as long as somebody wants it, and tells how much of it is done. */
export class ExportWatch extends WhileNeeded {
  #share = 0
  #frames: { readonly all: number; readonly from: number; readonly to: number } | null = null
  #done = 0

  constructor(db: Database, of: ExportToMake) {
    let told = 0
    super(async () => {
      const share = this.#share
      // A database that is away for a moment is no reason to stop: what is made then is noted when it is back, or is tried again.
      const asking = share === told ? isExportWanted(db, of) : noteExportShare(db, of, share)
      return await asking.then(
        (wanted) => {
          told = share
          return wanted
        },
        () => true,
      )
    })
  }

  get share(): number {
    return this.#share
  }

  /** @param share of the whole that is done, 0 to 1 */
  readonly reached = (share: number): void => {
    this.throwIfCancelled()
    this.#share = Math.min(1, Math.max(this.#share, share))
  }

  /** So many frames are made next. @param from share of the whole that is done when they are begun @param to after them */
  readonly picturesFrom = (all: number, from: number, to: number): void => {
    this.#frames = { all, from, to }
    this.#done = 0
  }

  override readonly finished: PictureWatch['finished'] = ({ frames }) => {
    this.#done += frames
    if (this.#frames !== null) {
      const { all, from, to } = this.#frames
      this.reached(from + (to - from) * Math.min(1, this.#done / Math.max(1, all)))
    }
    this.throwIfCancelled()
    return Promise.resolve()
  }
}
