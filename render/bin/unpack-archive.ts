import { text } from 'node:stream/consumers'
import { Refusal } from '@core/model'
import { unpackArchive } from '@render/archive'
import type { ArchiveMessage, UnpackArchiveOrder } from '@render/archive'

const tell = (message: ArchiveMessage): void => {
  process.stdout.write(`${JSON.stringify(message)}\n`)
}

try {
  // Our own server wrote it; it is not a border.
  await unpackArchive(JSON.parse(await text(process.stdin)) as UnpackArchiveOrder, tell)
} catch (error) {
  if (!(error instanceof Refusal)) throw error
  tell({ kind: 'refused', code: error.code, sentence: error.message })
}
