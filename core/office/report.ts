import type { Ms } from '@core/model'
import type { OfficeFinding } from './findings'

/** What came of an office file. */
export interface OfficeReport {
  /** Of the file. */
  readonly name: string
  readonly slides: number
  /** Clicks that show or hide something. */
  readonly steps: number
  /** Slides that have notes. */
  readonly notes: number
  /** Slides that a show leaves out. */
  readonly skipped: number
  /** BCP 47 tag of most of its words; empty when nothing says so. */
  readonly language: string
  /** What was recorded on its slides; null: nothing was. */
  readonly recorded: { readonly slides: number; readonly length: Ms } | null
  readonly findings: readonly OfficeFinding[]
}
