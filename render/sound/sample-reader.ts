/** Reads samples of 16 bits from a stream of bytes, so many at a time. */
export class SampleReader {
  readonly #chunks: AsyncIterator<Uint8Array>
  #rest: Uint8Array = new Uint8Array(0)
  #ended = false

  constructor(chunks: AsyncIterable<Uint8Array>) {
    this.#chunks = chunks[Symbol.asyncIterator]()
  }

  /** @returns just so many samples; silence where the stream ended before */
  async read(count: number): Promise<Int16Array> {
    const samples = new Int16Array(count)
    await this.#fill(samples)
    return samples
  }

  /** @returns so many samples, or those that are left when there are fewer */
  async next(most: number): Promise<Int16Array> {
    const samples = new Int16Array(most)
    return samples.subarray(0, await this.#fill(samples))
  }

  /** @returns how many samples were read */
  async #fill(samples: Int16Array): Promise<number> {
    const bytes = new Uint8Array(samples.buffer)
    let at = 0
    while (at < bytes.length) {
      if (this.#rest.length === 0 && !(await this.#next())) break
      const some = this.#rest.subarray(0, bytes.length - at)
      bytes.set(some, at)
      at += some.length
      this.#rest = this.#rest.subarray(some.length)
    }
    return Math.floor(at / 2)
  }

  async #next(): Promise<boolean> {
    if (this.#ended) return false
    const next = await this.#chunks.next()
    this.#ended = next.done === true
    this.#rest = next.done === true ? new Uint8Array(0) : next.value
    return !this.#ended
  }

  /** Nothing more is wanted of the stream. */
  async end(): Promise<void> {
    this.#ended = true
    await this.#chunks.return?.(undefined)
  }
}
