import type { Ms } from '@core/model'
import { ELEMENT, INSIDE, variable } from './webm-elements'

/** A block is longer than this only in a file that is not what it says; what was gathered of it is dropped. */
const LONGEST = 8_000_000

/**
 * Says how far a recording has come while it is being made, from the chunks that its recorder gives: they may be cut anywhere.
 */
export class WebmClock {
  #left = new Uint8Array(0)
  #cluster: Ms = 0
  #last: Ms = 0

  /** @param chunk the next bytes of the file @returns time of the last block that is there as a whole, in ms of the recording */
  feed(chunk: Uint8Array): Ms {
    const bytes = new Uint8Array(this.#left.length + chunk.length)
    bytes.set(this.#left)
    bytes.set(chunk, this.#left.length)
    let at = 0
    for (;;) {
      const id = variable(bytes, at, true)
      const size = id === null ? null : variable(bytes, at + id.size, false)
      if (id === null || size === null) break
      const inside = at + id.size + size.size
      if (INSIDE.has(id.value)) {
        at = inside
        continue
      }
      if (inside + size.value > bytes.length) break
      this.#read(id.value, bytes.subarray(inside, inside + size.value))
      at = inside + size.value
    }
    this.#left = bytes.length - at > LONGEST ? new Uint8Array(0) : bytes.slice(at)
    return this.#last
  }

  #read(id: number, content: Uint8Array): void {
    if (id === ELEMENT.timestamp) this.#cluster = content.reduce((value, byte) => value * 256 + byte, 0)
    if (id !== ELEMENT.simpleBlock && id !== ELEMENT.block) return
    const track = variable(content, 0, false)
    if (track === null || content.length < track.size + 2) return
    const relative = (((content[track.size] ?? 0) << 24) >> 16) | (content[track.size + 1] ?? 0)
    this.#last = Math.max(this.#last, this.#cluster + relative)
  }
}
