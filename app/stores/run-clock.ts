import type { RunThrough } from '@core/pace'
import type { Ms, SlideId } from '@core/model'

/** A run-through under way: its clock, and how long each slide was up until now. */
export class RunClock {
  readonly id = crypto.randomUUID()
  /** When it was begun, by the wall's clock. */
  readonly started = new Date().toISOString()
  #visits: RunThrough['visits'] = []
  #before: Ms = 0
  #since: number | null = performance.now()

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

  /** Notes how long a slide was up that is about to go; one that was not seen is left out. */
  left(slide: SlideId, length: Ms): void {
    if (length > 0) this.#visits = [...this.#visits, { slide, length }]
  }

  get run(): RunThrough {
    return { visits: this.#visits }
  }
}
