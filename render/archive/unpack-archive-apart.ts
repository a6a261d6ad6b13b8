import { linesOf, startApart } from '@render/process'
import type { ApartBounds } from '@render/process'
import { Refusal } from '@core/model'
import type { ArchiveMessage, UnpackArchiveOrder } from './unpack-archive'

/**
 * Unpacks an archive in a process of its own that may run out of time or memory, or die, without harm to anything else.
 * @param hear is called with each message in turn
 * @throws Refusal when it cannot be unpacked or takes too much
 */
export async function unpackArchiveApart(
  order: UnpackArchiveOrder,
  bounds: ApartBounds,
  hear: (message: ArchiveMessage) => Promise<void>,
): Promise<void> {
  const unpacker = startApart('unpack-archive', bounds)
  let refused: Refusal | null = null
  let finished = false
  try {
    unpacker.child.stdin?.end(JSON.stringify(order))
    for await (const line of linesOf(unpacker.output)) {
      const message = JSON.parse(line) as ArchiveMessage
      if (message.kind === 'refused') refused = new Refusal(message.code, message.sentence)
      else await hear(message)
      finished ||= message.kind === 'done'
    }
    await unpacker.done.catch((error: unknown) => {
      if (refused !== null || finished) return
      const tooMuch = unpacker.killed() !== null
      throw tooMuch
        ? new Refusal(
            'too-large',
            'Unpacking this archive takes more time or memory than it may, or a file in it is larger than can be kept.',
          )
        : new Refusal('unreadable', 'This archive could not be unpacked.', { cause: String(error) })
    })
  } finally {
    unpacker.end()
  }
  if (refused !== null) throw refused
}
