import { median } from 'd3'

/** Blocks whose stamps are looked at together, in ms of sound. */
const REMEMBERED = 5000
/** Every so many blocks one is remembered; the first few all are. */
const EACH = 5
const FEW = 20
/** A block that is farther than this from where it should be follows a gap, in ms. */
const GAP = 25

/**
 * When samples of a microphone were captured. Stamps of single blocks jitter; their count does not, but does not know
 * of blocks that were dropped. So: the count, set by the running median of stamp less count.
 */
export class CaptureClock {
  #count = 0
  #offsets: readonly number[] = []
  #median = 0
  #seen = 0

  /**
   * @param stamp of the block's first sample, in ms of the page's clock
   * @param frames of the block
   * @param rate samples a second
   * @returns when its first sample was captured, and whether blocks were lost before it
   */
  take(stamp: number, frames: number, rate: number): { readonly at: number; readonly lost: boolean } {
    const counted = (this.#count / rate) * 1000
    const lost = this.#offsets.length > 0 && Math.abs(stamp - counted - this.#median) > GAP
    if (lost) this.#offsets = []
    this.#seen += 1
    // Some blocks of the last seconds say as much as all of them.
    if (lost || this.#offsets.length < FEW || this.#seen % EACH === 0) {
      const most = Math.max(FEW, Math.round(REMEMBERED / ((frames / rate) * 1000) / EACH))
      this.#offsets = [...this.#offsets, stamp - counted].slice(-most)
      this.#median = median(this.#offsets) ?? 0
    }
    this.#count += frames
    return { at: counted + this.#median, lost }
  }
}
