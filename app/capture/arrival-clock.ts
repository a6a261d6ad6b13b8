/** How long arrivals are remembered, in ms of sound. */
const REMEMBERED = 5000

/**
 * When samples of a microphone were captured, where the browser does not say: by when they arrived. They arrive late by more or less,
 * never early; so the soonest of the last seconds, by their count, is nearest to the truth.
 */
export class ArrivalClock {
  #next: number | null = null
  /** The soonest arrivals, each less its count, the least first and later ones after it. */
  #soonest: readonly { readonly count: number; readonly offset: number }[] = []

  /**
   * @param arrived when the block came, in ms of the page's clock
   * @param first the count of its first sample
   * @param frames of the block
   * @param rate samples a second
   * @returns when its first sample was captured, and whether blocks were lost before it
   */
  take(arrived: number, first: number, frames: number, rate: number): { readonly at: number; readonly lost: boolean } {
    const counted = (first / rate) * 1000
    // A block can come when its last sample was captured, and no sooner.
    const offset = arrived - (frames / rate) * 1000 - counted
    const lost = this.#next !== null && first !== this.#next
    this.#next = first + frames
    this.#soonest = [...this.#soonest.filter((one) => one.offset < offset && one.count > counted - REMEMBERED), { count: counted, offset }]
    return { at: counted + (this.#soonest[0]?.offset ?? offset), lost }
  }
}
