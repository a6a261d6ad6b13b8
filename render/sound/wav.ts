import { createReadStream, createWriteStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Ms } from '@core/model'
import { BYTES_A_SAMPLE, SAMPLE_RATE } from './pcm'

/** Silence is written in pieces of so many bytes. */
const PIECE = 96_000
/** Bytes of the head, and of that what comes before the chunk's own length (RIFF, 1991). */
const HEAD = 44
const BEFORE_LENGTH = 8

const bytesIn = (length: Ms): number => Math.round((length * SAMPLE_RATE) / 1000) * BYTES_A_SAMPLE

/** Head of a WAVE file of 16 bits and one channel. @param bytes of samples */
function head(bytes: number): Buffer {
  const buffer = Buffer.alloc(HEAD)
  buffer.write('RIFF', 0, 'latin1')
  // A file of more than 4 GB says the most that it can: readers go on to its end then.
  buffer.writeUInt32LE(Math.min(0xffffffff, bytes + HEAD - BEFORE_LENGTH), 4)
  buffer.write('WAVEfmt ', 8, 'latin1')
  buffer.writeUInt32LE(16, 16)
  buffer.writeUInt16LE(1, 20)
  buffer.writeUInt16LE(1, 22)
  buffer.writeUInt32LE(SAMPLE_RATE, 24)
  buffer.writeUInt32LE(SAMPLE_RATE * BYTES_A_SAMPLE, 28)
  buffer.writeUInt16LE(BYTES_A_SAMPLE, 32)
  buffer.writeUInt16LE(BYTES_A_SAMPLE * 8, 34)
  buffer.write('data', 36, 'latin1')
  buffer.writeUInt32LE(Math.min(0xffffffff, bytes), 40)
  return buffer
}

/** Samples of one part, exactly as many as its length asks for. */
async function* samplesOf(path: string | null, bytes: number): AsyncGenerator<Buffer> {
  let left = bytes
  if (path !== null && bytes > 0)
    for await (const chunk of createReadStream(path, { end: bytes - 1 })) {
      left -= (chunk as Buffer).length
      yield chunk as Buffer
    }
  for (; left > 0; left -= PIECE) yield Buffer.alloc(Math.min(PIECE, left))
}

/**
 * Writes voices one after the other into a WAVE file, each exactly as long as it is said to be.
 * @param parts 48 kHz mono samples of 16 bits; without a path silence
 */
export async function wavOf(parts: readonly { readonly path: string | null; readonly length: Ms }[], out: string): Promise<void> {
  const sizes = parts.map(({ length }) => bytesIn(length))
  const all = sizes.reduce((sum, bytes) => sum + bytes, 0)
  async function* bytes(): AsyncGenerator<Buffer> {
    yield head(all)
    for (const [n, { path }] of parts.entries()) yield* samplesOf(path, sizes[n] ?? 0)
  }
  await pipeline(Readable.from(bytes()), createWriteStream(out, { mode: 0o600 }))
}
