import { linesOf, startApart } from '@render/process'
import type { ApartBounds } from '@render/process'
import { Refusal } from '@core/model'
import type { DeckMessage, ReadDeckOrder } from './messages'

/**
 * Reads a deck in a process of its own that may run out of time or memory, or die, without harm to anything else.
 * @param hear is called with each message in turn; the next waits until it has returned
 * @throws Refusal when the deck cannot be read or takes too much
 */
export async function readDeckApart(
  order: ReadDeckOrder,
  bounds: ApartBounds,
  hear: (message: DeckMessage) => Promise<void>,
): Promise<void> {
  const reader = startApart('read-deck', bounds)
  let refused: Refusal | null = null
  let finished = false
  try {
    reader.child.stdin?.end(JSON.stringify(order))
    for await (const line of linesOf(reader.output)) {
      const message = JSON.parse(line) as DeckMessage
      if (message.kind === 'refused') refused = new Refusal(message.code, message.sentence, { file: message.file })
      else await hear(message)
      finished ||= message.kind === 'done'
    }
    await reader.done.catch((error: unknown) => {
      if (refused !== null || finished) return
      switch (reader.killed()) {
        case 'memory':
          throw new Refusal(
            'too-large',
            'This deck needs more memory than reading a deck may take. Make its pictures smaller, or bring it in parts.',
          )
        case 'time':
          throw new Refusal('too-large', 'Reading this deck took too long and was stopped. Bring it in parts.')
        case null:
          throw new Refusal('unreadable', 'This file could not be read: reading it failed. Export the deck again and bring that.', {
            cause: String(error),
          })
      }
    })
  } finally {
    reader.end()
  }
  if (refused !== null) throw refused
}
