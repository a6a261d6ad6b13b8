/** What became of one fault. */
export interface Row {
  readonly fault: string
  /** ms that are missing; 0 when nothing is. */
  readonly lost: number
  /** Most that may be missing. */
  readonly most: number
  /** What the person was told meanwhile. */
  readonly told: string
  /** How often it was done, and what else there is to say. */
  readonly note?: string
}

/** What may be lost when a page or browser is killed, in ms. */
export const SPOKEN_LAST = 1000
