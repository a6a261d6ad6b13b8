import type { PictureWatch } from './encode-options'

/** How often it is looked whether the work is still needed, in ms. */
const LOOK = 700

/** Watches over pictures that nobody waits for here: they are made for as long as they are of use, and nobody is told. */
export class WhileNeeded implements PictureWatch {
  readonly #stop = new AbortController()
  #needless = false
  readonly #timer: NodeJS.Timeout

  /** @param needed whether the work is still to go on; when that cannot be known, it is not */
  constructor(needed: () => Promise<boolean>) {
    this.#timer = setInterval(() => {
      needed().then(
        (still) => {
          if (!still) this.#end()
        },
        () => {
          this.#end()
        },
      )
    }, LOOK)
  }

  /** Whether it is of no use any more; false also when it was halted because a part of it failed. */
  get needless(): boolean {
    return this.#needless
  }

  #end(): void {
    this.#needless = true
    this.halt()
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
