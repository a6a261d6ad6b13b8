import { createInterface } from 'node:readline'
import { readFile } from 'node:fs/promises'
import { start } from '@render/process'
import { Refusal } from '@core/model'
import type { DeckMessage, ReadDeckOrder } from './messages'

export interface Bounds {
  /** ms */
  readonly time: number
  /** MB of memory the process may hold */
  readonly memory: number
  /** The built reader; null: it is run from its source. */
  readonly reader: string | null
  /** Folder of the product, where its source is. */
  readonly home: string
  readonly signal?: AbortSignal
}

/** How often the reader's memory is looked at, in ms. */
const WATCH = 150

async function residentMegabytes(pid: number): Promise<number> {
  try {
    const status = await readFile(`/proc/${String(pid)}/status`, 'utf8')
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024
  } catch {
    return 0
  }
}

/**
 * Reads a deck in a process of its own that may run out of time or memory, or die, without harm to anything else.
 * @param hear is called with each message in turn; the next waits until it has returned
 * @throws Refusal when the deck cannot be read or takes too much
 */
export async function readDeckApart(order: ReadDeckOrder, bounds: Bounds, hear: (message: DeckMessage) => Promise<void>): Promise<void> {
  const program = bounds.reader === null ? ['--import', 'tsx', `${bounds.home}/render/bin/read-deck.ts`] : [bounds.reader]
  const args = [`--max-old-space-size=${String(bounds.memory)}`, ...program]
  let lines: AsyncIterable<string> = { [Symbol.asyncIterator]: () => ({ next: () => Promise.resolve({ done: true, value: undefined }) }) }
  const { child, done } = start(process.execPath, args, {
    timeout: bounds.time,
    signal: bounds.signal,
    onOutput: (stream) => { lines = createInterface({ input: stream }) },
  })
  let tooLarge = false
  const watch = setInterval(() => {
    void residentMegabytes(child.pid ?? 0).then((held) => {
      if (held <= bounds.memory) return
      tooLarge = true
      child.kill('SIGKILL')
    })
  }, WATCH)
  const began = Date.now()
  let refused: Refusal | null = null
  let finished = false
  try {
    child.stdin?.end(JSON.stringify(order))
    for await (const line of lines) {
      const message = JSON.parse(line) as DeckMessage
      if (message.kind === 'refused') refused = new Refusal(message.code, message.sentence, { file: message.file })
      else await hear(message)
      finished ||= message.kind === 'done'
    }
    await done.catch((error: unknown) => {
      if (refused !== null || finished) return
      if (tooLarge) throw new Refusal('too-large', 'This deck needs more memory than reading a deck may take. Make its pictures smaller, or bring it in parts.')
      if (Date.now() - began >= bounds.time) throw new Refusal('too-large', 'Reading this deck took too long and was stopped. Bring it in parts.')
      throw new Refusal('unreadable', 'This file could not be read: reading it failed. Export the deck again and bring that.', { cause: String(error) })
    })
  } finally {
    clearInterval(watch)
    child.kill('SIGKILL')
  }
  if (refused !== null) throw refused
}
