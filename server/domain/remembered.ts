/** What was made lately and does not change, by a key that says all that decides it; so much of it, that which was asked for last. */
export class Remembered<Value> {
  readonly #most: number
  readonly #known = new Map<string, Promise<Value>>()

  constructor(most: number) {
    this.#most = most
  }

  /** @param make how it is made when it is not known; asked for twice meanwhile, it is made once, and what failed is made again */
  async of(key: string, make: () => Promise<Value>): Promise<Value> {
    const value = this.#known.get(key) ?? make()
    this.#known.delete(key)
    this.#known.set(key, value)
    if (this.#known.size > this.#most) this.#known.delete([...this.#known.keys()][0] ?? '')
    try {
      return await value
    } catch (error) {
      this.#known.delete(key)
      throw error
    }
  }
}
