import type { HeardBlock } from './heard-blocks'
import { keepTail } from './local-takes'
import type { VoicePart } from './local-takes'
import { sixteenBits } from './sixteen-bits'

/** Length of a piece, in ms: what is lost at worst when the page is killed, and a little more. */
const LENGTH = 250
/** How much longer than its recording seems to need it a piece is kept, in ms: the recording's own time may lie beside the stretch's. */
const SPARE = 2000

/**
 * Keeps what is being said as the microphone gave it until the recording has it too. In a recording, voice and pictures
 * wait for each other; on a machine that is short of time it falls seconds behind, which would be lost with the page.
 * Runs in a worker, which goes on when the page itself is busy.
 */
export class VoiceTail {
  readonly #stretch: string
  readonly #trouble: (error: unknown) => void
  #waiting: readonly VoicePart[] = []
  /** Of the pieces that are kept, their number and when they end. */
  #kept: readonly { readonly n: number; readonly end: number }[] = []
  #keeping: Promise<void> | null = null
  #parts: Float32Array[] = []
  #from = 0
  #rate = 0
  #n = 0
  #reached = 0

  constructor(stretch: string, trouble: (error: unknown) => void) {
    this.#stretch = stretch
    this.#trouble = trouble
  }

  /** @param at when the block was captured, in ms of the stretch */
  hear(at: number, { rate, samples, lost }: HeardBlock): void {
    if (lost) this.#cut()
    if (this.#parts.length === 0) this.#from = at
    this.#parts.push(samples)
    this.#rate = rate
    if (at - this.#from + (samples.length / rate) * 1000 >= LENGTH) this.#cut()
  }

  /** @param to how far the recording on the disk has come, in ms */
  reached(to: number): void {
    this.#reached = Math.max(this.#reached, to)
  }

  #cut(): void {
    if (this.#parts.length === 0) return
    const samples = sixteenBits(this.#parts)
    this.#parts = []
    this.#waiting = [...this.#waiting, { stretch: this.#stretch, n: this.#n, at: this.#from, rate: this.#rate, samples: samples.buffer }]
    this.#n += 1
    this.#keeping ??= this.#keepWaiting()
      .catch(this.#trouble)
      .finally(() => {
        this.#keeping = null
      })
  }

  async #keepWaiting(): Promise<void> {
    for (let [next] = this.#waiting; next !== undefined; [next] = this.#waiting) {
      this.#waiting = this.#waiting.slice(1)
      this.#kept = [
        ...this.#kept.filter(({ end }) => end > this.#reached - SPARE),
        { n: next.n, end: next.at + (next.samples.byteLength / 2 / next.rate) * 1000 },
      ]
      await keepTail(next, this.#kept[0]?.n ?? next.n)
    }
  }
}

/**
 * Puts pieces of a voice one after the other, with silence where some are missing.
 * @param parts in order, all at the same rate
 * @returns null when there are none
 */
export function joinTail(
  parts: readonly Omit<VoicePart, 'stretch' | 'n'>[],
): { readonly at: number; readonly rate: number; readonly samples: Int16Array<ArrayBuffer> } | null {
  const [first] = parts
  const last = parts.at(-1)
  if (first === undefined || last === undefined) return null
  const placeOf = (at: number): number => Math.round(((at - first.at) / 1000) * first.rate)
  const samples = new Int16Array(placeOf(last.at) + last.samples.byteLength / 2)
  for (const part of parts) samples.set(new Int16Array(part.samples).subarray(0, samples.length - placeOf(part.at)), placeOf(part.at))
  return { at: first.at, rate: first.rate, samples }
}
