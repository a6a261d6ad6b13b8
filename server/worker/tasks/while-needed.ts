import type { PictureWatch } from './encode-options'

/** How often it is looked whether the work is still needed, in ms. */
const LOOK = 700

/** Watches over pictures that nobody waits for here: they are made for as long as they are of use, and nobody is told. */
export class WhileNeeded implements PictureWatch {
  readonly #stop = new AbortController()
  readonly #timer: NodeJS.Timeout

  /** @param needed whether the work is still to go on; when that cannot be known, it is not */
  constructor(needed: () => Promise<boolean>) {
    this.#timer = setInterval(() => {
      needed().then(
        (still) => {
          if (!still) this.halt()
        },
        () => {
          this.halt()
        },
      )
    }, LOOK)
  }

  get signal(): AbortSignal {
    return this.#stop.signal
  }

  readonly within = (): void => undefined
  readonly finished: PictureWatch['finished'] = () => {
    this.throwIfCancelled()
    return Promise.resolve()
  }

  readonly throwIfCancelled = (): void => {
    this.#stop.signal.throwIfAborted()
  }
  readonly halt = (): void => {
    this.#stop.abort()
  }
  readonly end = (): void => {
    clearInterval(this.#timer)
  }
}
