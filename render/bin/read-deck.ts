import { text } from 'node:stream/consumers'
import { Worker } from 'node:worker_threads'
import { Refusal } from '@core/model'
import { readDeck } from '@render/deck'
import type { DeckMessage, HelperOrder, ReadDeckOrder } from '@render/deck'

const tell = (message: DeckMessage): void => {
  process.stdout.write(`${JSON.stringify(message)}\n`)
}
/** The helping program lies beside this one, bundled or as its source. */
const startHelper = (order: HelperOrder): Worker => {
  if (!import.meta.url.endsWith('.ts')) return new Worker(new URL('./help-read-deck.mjs', import.meta.url), { workerData: order })
  // Threads of this Node do not take over the loader for TypeScript.
  const source = new URL('./help-read-deck.ts', import.meta.url).href
  return new Worker(`import { tsImport } from 'tsx/esm/api'; await tsImport('${source}', import.meta.url)`, {
    eval: true,
    workerData: order,
  })
}

try {
  // Our own server wrote it; it is not a border.
  await readDeck(JSON.parse(await text(process.stdin)) as ReadDeckOrder, tell, startHelper)
} catch (error) {
  if (!(error instanceof Refusal)) throw error
  tell({
    kind: 'refused',
    code: error.code,
    sentence: error.message,
    file: typeof error.detail['file'] === 'string' ? error.detail['file'] : null,
  })
}
