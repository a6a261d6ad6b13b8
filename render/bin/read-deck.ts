import { text } from 'node:stream/consumers'
import { Refusal } from '@core/model'
import { readDeck } from '@render/deck'
import type { DeckMessage, ReadDeckOrder } from '@render/deck'

const tell = (message: DeckMessage): void => { process.stdout.write(`${JSON.stringify(message)}\n`) }

try {
  // Our own server wrote it; it is not a border.
  await readDeck(JSON.parse(await text(process.stdin)) as ReadDeckOrder, tell)
} catch (error) {
  if (!(error instanceof Refusal)) throw error
  tell({ kind: 'refused', code: error.code, sentence: error.message, file: typeof error.detail['file'] === 'string' ? error.detail['file'] : null })
}
