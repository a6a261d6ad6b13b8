/** Somebody who pauses, and can be woken before the pause is over. */
export class Wakeable {
  #awake = false
  #wake: (() => void) | null = null

  /** @param length in ms; once woken, there are no more pauses */
  async pause(length: number): Promise<void> {
    if (this.#awake) return
    await new Promise<void>((resolve) => {
      const timer = setTimeout(resolve, length)
      this.#wake = () => {
        clearTimeout(timer)
        resolve()
      }
    })
    this.#wake = null
  }

  wake(): void {
    this.#awake = true
    this.#wake?.()
  }
}
