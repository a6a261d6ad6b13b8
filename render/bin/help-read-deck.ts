import { parentPort, workerData } from 'node:worker_threads'
import { help } from '@render/deck'
import type { HelperOrder } from '@render/deck'

// A thread of read-deck, which wrote the order.
await help(workerData as HelperOrder, (message, moved) => {
  parentPort?.postMessage(message, moved)
})
