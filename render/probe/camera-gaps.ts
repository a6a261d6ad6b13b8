/** A camera that gives no picture for longer is lost, in ms: in the dark some give only five a second. */
const LOST = 700

interface Span {
  readonly from: number
  readonly to: number
}

/** When a recording's pictures come, in ms of the recording, as far as anybody wants to know. */
export interface PicturesSeen {
  readonly first: number
  readonly last: number
  /** Where none comes for so long that the camera is lost. */
  readonly gaps: readonly Span[]
}

/** Hears of a recording's pictures one by one. */
export class PictureWatch {
  #first: number | null = null
  #last = 0
  readonly #gaps: Span[] = []

  /** @param at when the next picture comes, in ms */
  take(at: number): void {
    this.#first ??= at
    if (at - this.#last > LOST && at !== this.#first) this.#gaps.push({ from: this.#last, to: at })
    this.#last = Math.max(this.#last, at)
  }

  /** null when there was none */
  get seen(): PicturesSeen | null {
    return this.#first === null ? null : { first: this.#first, last: this.#last, gaps: this.#gaps }
  }
}

/** What a stretch's camera gave: for how long it gave no pictures, and when it gave the last; in ms of the stretch. */
export interface CameraSeen {
  readonly lost: number
  /** 0 for a recording without pictures */
  readonly until: number
}

/**
 * What a stretch's camera gave.
 * @param from ms of the recording at which the stretch begins; pictures from before that are packed into its first moments
 * @param length of the stretch in ms
 */
export function cameraSeen(pictures: PicturesSeen | null, from: number, length: number): CameraSeen {
  if (pictures === null) return { lost: 0, until: 0 }
  const { first, last, gaps } = pictures
  const within = (at: number): number => Math.min(length, Math.max(0, at - from))
  const spans = [{ from, to: first }, ...gaps, { from: last, to: from + length }]
  const lost = spans.map((span) => within(span.to) - within(span.from)).filter((gap) => gap > LOST)
  return { lost: Math.round(lost.reduce((sum, gap) => sum + gap, 0)), until: Math.max(0, last - from) }
}
