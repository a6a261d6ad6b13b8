import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import pLimit from 'p-limit'
import { Refusal } from '@core/model'
import { startApart } from '@render/process'
import type { Apart, ApartBounds } from '@render/process'
import type { DrawAnswer, DrawOrder } from './draw-order'

/** Drawing one page takes no longer than this, in ms. */
const PATIENCE = 60_000
/** So long the drawing program waits for another order before it ends: what it has read of a document takes much memory. */
const IDLE = 4000
/** A file's pages are all drawn within this time, in ms: it may be a long one, and others may go first. */
const LONGEST_FILM = 12 * 3_600_000
const NEWLINE = 10

/** Reads answers and pixels from what a program prints. */
class Answers {
  readonly #chunks: AsyncIterator<Buffer>
  #held: Buffer = Buffer.alloc(0)

  constructor(output: AsyncIterable<Buffer>) {
    this.#chunks = output[Symbol.asyncIterator]()
  }

  async #more(): Promise<Buffer> {
    const { done, value } = await this.#chunks.next()
    if (done === true) throw new Error('the drawing program ended')
    return value
  }

  async line(): Promise<string> {
    let end = this.#held.indexOf(NEWLINE)
    while (end === -1) {
      this.#held = Buffer.concat([this.#held, await this.#more()])
      end = this.#held.indexOf(NEWLINE)
    }
    const text = this.#held.toString('utf8', 0, end)
    this.#held = this.#held.subarray(end + 1)
    return text
  }

  /** Fills all of `target`. */
  async fill(target: Uint8Array | Uint8ClampedArray): Promise<void> {
    let filled = 0
    while (filled < target.length) {
      if (this.#held.length === 0) this.#held = await this.#more()
      const taken = Math.min(this.#held.length, target.length - filled)
      target.set(this.#held.subarray(0, taken), filled)
      this.#held = this.#held.subarray(taken)
      filled += taken
    }
  }
}

/**
 * Draws pages and pictures that people brought, in a process of its own: it may run out of time or memory, or die, and the next page
 * begins another.
 */
export class DrawnApart {
  readonly #bounds: Omit<ApartBounds, 'time'>
  readonly #inTurn = pLimit(1)
  #drawer: { readonly apart: Apart; readonly answers: Answers } | null = null
  #idle: NodeJS.Timeout | undefined

  constructor(bounds: Omit<ApartBounds, 'time'>) {
    this.#bounds = bounds
  }

  /** @throws Refusal when it cannot be drawn or takes too much */
  async draw(order: DrawOrder): Promise<Canvas> {
    return await this.#inTurn(() => this.#drawNow(order))
  }

  async #drawNow(order: DrawOrder): Promise<Canvas> {
    clearTimeout(this.#idle)
    const { apart, answers } = (this.#drawer ??= this.#begin())
    let late = false
    const patience = setTimeout(() => {
      late = true
      apart.end()
    }, PATIENCE)
    try {
      apart.child.stdin?.write(`${JSON.stringify(order)}\n`)
      const answer = JSON.parse(await answers.line()) as DrawAnswer
      if (answer.kind === 'refused') throw new Refusal(answer.code, answer.sentence)
      const canvas = createCanvas(answer.size.width, answer.size.height)
      const ctx = canvas.getContext('2d')
      const image = ctx.createImageData(canvas.width, canvas.height)
      await answers.fill(image.data)
      ctx.putImageData(image, 0, 0)
      return canvas
    } catch (error) {
      if (error instanceof Refusal) throw error
      this.close()
      if (late) throw new Refusal('too-large', 'Drawing a page of this deck took too long and was stopped.')
      if (apart.killed() === 'memory')
        throw new Refusal('too-large', 'A page of this deck needs more memory to be drawn than may be taken.')
      throw new Refusal('unreadable', 'A page of this deck could not be drawn: drawing it failed.', { cause: String(error) })
    } finally {
      clearTimeout(patience)
      this.#idle = setTimeout(() => {
        this.close()
      }, IDLE)
      this.#idle.unref()
    }
  }

  #begin(): { readonly apart: Apart; readonly answers: Answers } {
    const apart = startApart('draw-pages', { ...this.#bounds, time: LONGEST_FILM })
    return { apart, answers: new Answers(apart.output as AsyncIterable<Buffer>) }
  }

  close(): void {
    clearTimeout(this.#idle)
    this.#drawer?.apart.end()
    this.#drawer = null
  }
}
