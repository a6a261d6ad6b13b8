import type { RunThrough } from '@core/pace'
import type { Ms, SlideId } from '@core/model'

/** A run-through under way: its clock, how long each slide was up until now, and how long was spoken on it. */
export class RunClock {
  readonly id = crypto.randomUUID()
  /** When it was begun, by the wall's clock. */
  readonly started = new Date().toISOString()
  #visits: RunThrough['visits'] = []
  #before: Ms = 0
  #since: number | null = performance.now()
  #spoken: Ms | null = null

  /** Time since it was begun, pauses left out. */
  now(): Ms {
    return this.#before + (this.#since === null ? 0 : Math.round(performance.now() - this.#since))
  }

  pause(): void {
    this.#before = this.now()
    this.#since = null
  }

  goOn(): void {
    this.#since ??= performance.now()
  }

  /** Notes that somebody listened for a while, and whether speech was heard. @param dt ms */
  hear(dt: Ms, speaking: boolean): void {
    if (this.#since !== null) this.#spoken = (this.#spoken ?? 0) + (speaking ? dt : 0)
  }

  /** Notes how long a slide was up that is about to go; one that was not seen is left out. */
  left(slide: SlideId, length: Ms): void {
    if (length > 0)
      this.#visits = [
        ...this.#visits,
        { slide, length, ...(this.#spoken === null ? {} : { spoken: Math.min(length, Math.round(this.#spoken)) }) },
      ]
    if (this.#spoken !== null) this.#spoken = 0
  }

  get run(): RunThrough {
    return { visits: this.#visits }
  }
}
