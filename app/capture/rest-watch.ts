import type { Ms } from '@core/model'

/** A window has come to rest, or moves again; times are of the page's clock. */
export type RestMessage =
  | { readonly kind: 'rests'; readonly n: number; readonly from: number; readonly picture: ArrayBuffer }
  | { readonly kind: 'moves'; readonly n: number; readonly until: number }

/** A window that did not change for so long rests, in ms; and so much lies at least between two full-size pictures. */
const RESTS: Ms = 500
const BETWEEN: Ms = 1500
/** Farther apart in one value than this, 0 to 255, two pictures differ: less comes of how they are given. */
const DIFFERENT = 5

/** A picture of a window, and the same small, as values that are compared. */
export interface SeenPicture<Frame> {
  readonly frame: Frame
  readonly values: Uint8ClampedArray
}

export interface RestsBy<Frame> {
  /** Whether two pictures are of one size. */
  readonly alike: (a: Frame, b: Frame) => boolean
  readonly close: (frame: Frame) => void
  /** Makes PNG of a picture, which takes its time. It is read at once. */
  readonly inFull: (frame: Frame) => Promise<ArrayBuffer>
  readonly tell: (message: RestMessage) => void
}

/**
 * Finds when a window rests: what it looks like then is told, and when it moves again, always in this order. Times are ms of one clock.
 */
export class RestWatch<Frame> {
  readonly #by: RestsBy<Frame>
  #last: SeenPicture<Frame> | null = null
  #changed = 0
  #asked = -Infinity
  #count = 0
  /** The full-size picture that it looks like now, if there is one. */
  #resting: number | null = null
  /** Messages wait for those before them: a picture in full size is made while the window goes on. */
  #told: Promise<void> = Promise.resolve()

  constructor(by: RestsBy<Frame>) {
    this.#by = by
  }

  /** Another picture came. It is kept, or closed. */
  came(picture: SeenPicture<Frame>, now: Ms): void {
    if (this.#last !== null && this.#looksLike(this.#last, picture)) {
      this.#by.close(picture.frame)
      return
    }
    this.#moves(now)
    if (this.#last !== null) this.#by.close(this.#last.frame)
    this.#last = picture
    this.#changed = now
  }

  /** Looks whether it rests by now: a window at rest gives no pictures. */
  look(now: Ms): void {
    if (this.#last === null || this.#resting !== null || now - this.#changed < RESTS || now - this.#asked < BETWEEN) return
    const [n, from] = [this.#count, this.#changed]
    this.#resting = n
    this.#count += 1
    this.#asked = now
    const made = this.#by.inFull(this.#last.frame)
    this.#tell(async () => ({ kind: 'rests', n, from, picture: await made }))
  }

  /** Lets go of what it keeps. */
  end(): void {
    if (this.#last !== null) this.#by.close(this.#last.frame)
    this.#last = null
  }

  #moves(until: Ms): void {
    const n = this.#resting
    this.#resting = null
    if (n !== null) this.#tell(() => Promise.resolve({ kind: 'moves', n, until }))
  }

  #tell(message: () => Promise<RestMessage>): void {
    this.#told = this.#told.then(message).then(this.#by.tell, () => undefined)
  }

  #looksLike(a: SeenPicture<Frame>, b: SeenPicture<Frame>): boolean {
    return this.#by.alike(a.frame, b.frame) && a.values.every((value, n) => Math.abs(value - (b.values[n] ?? 0)) <= DIFFERENT)
  }
}
