import type { Ms, Size } from '@core/model'

/*
 * Animated WebP as its container is described: RFC 9649, "WebP Image Format", section 2 (RIFF chunks, VP8X, ANIM, ANMF).
 */

/** A frame of an animation, by itself a picture that can be decoded. */
export interface WebpFrame {
  /** Where its upper left corner is on the canvas, in pixels. */
  readonly x: number
  readonly y: number
  readonly size: Size
  readonly length: Ms
  /** Whether it is laid over what is there; false: it takes its place. */
  readonly blends: boolean
  /** Whether its place is cleared when it is over. */
  readonly clears: boolean
  /** A still WebP file. */
  readonly picture: Buffer
}

export interface WebpAnimation {
  readonly size: Size
  readonly frames: readonly WebpFrame[]
}

interface Chunk {
  readonly name: string
  readonly data: Buffer
  /** With its header and what fills it up. */
  readonly whole: Buffer
}

const [FILE_HEADER, CHUNK_HEADER, FRAME_HEADER] = [12, 8, 16]
/** Bits of flags: in the file's header, and in a frame's. */
const [ANIMATED, ALPHA] = [0x02, 0x10]
const [CLEARS, REPLACES] = [0x01, 0x02]
/** Frames that say that they last for less are shown for as long as browsers do, in ms. */
const [TOO_SHORT, INSTEAD] = [11, 100]

/** Chunks one after the other; one that is cut off ends them. */
function* chunksOf(bytes: Buffer): Generator<Chunk> {
  for (let at = 0; at + CHUNK_HEADER <= bytes.length;) {
    const length = bytes.readUInt32LE(at + 4)
    const end = at + CHUNK_HEADER + length
    if (end > bytes.length) return
    const next = Math.min(bytes.length, end + (length % 2))
    yield { name: bytes.toString('latin1', at, at + 4), data: bytes.subarray(at + CHUNK_HEADER, end), whole: bytes.subarray(at, next) }
    at = next
  }
}

/** Whether a file begins as an animated WebP does. @param head its first 21 bytes or more */
export const isAnimatedWebp = (head: Buffer): boolean =>
  head.length > 20 &&
  head.toString('latin1', 0, 4) === 'RIFF' &&
  head.toString('latin1', 8, 16) === 'WEBPVP8X' &&
  ((head[20] ?? 0) & ANIMATED) !== 0

const chunk = (name: string, data: Buffer): Buffer => {
  const header = Buffer.alloc(CHUNK_HEADER)
  header.write(name, 'latin1')
  header.writeUInt32LE(data.length, 4)
  return Buffer.concat([header, data, Buffer.alloc(data.length % 2)])
}

/** A still picture of a frame's own chunks: what says its size, its transparency and its pixels. */
function stillOf(chunks: readonly Chunk[], { width, height }: Size): Buffer {
  const kept = chunks.filter(({ name }) => ['ALPH', 'VP8 ', 'VP8L'].includes(name)).map(({ whole }) => whole)
  const header = Buffer.alloc(10)
  header[0] = ALPHA
  header.writeUIntLE(width - 1, 4, 3)
  header.writeUIntLE(height - 1, 7, 3)
  return chunk('RIFF', Buffer.concat([Buffer.from('WEBP'), chunk('VP8X', header), ...kept]))
}

function frameOf(data: Buffer): WebpFrame | null {
  if (data.length < FRAME_HEADER) return null
  const at = (byte: number): number => data.readUIntLE(byte, 3)
  const size = { width: at(6) + 1, height: at(9) + 1 }
  const [length, flags] = [at(12), data[15] ?? 0]
  return {
    x: at(0) * 2,
    y: at(3) * 2,
    size,
    length: length < TOO_SHORT ? INSTEAD : length,
    blends: (flags & REPLACES) === 0,
    clears: (flags & CLEARS) !== 0,
    picture: stillOf([...chunksOf(data.subarray(FRAME_HEADER))], size),
  }
}

/** The frames of an animated WebP, as far as the file goes; null when it is none. Nothing is decoded. */
export function readAnimatedWebp(file: Buffer): WebpAnimation | null {
  if (!isAnimatedWebp(file)) return null
  const chunks = [...chunksOf(file.subarray(FILE_HEADER))]
  const header = chunks.find(({ name }) => name === 'VP8X')?.data
  if (header === undefined || header.length < 10) return null
  const frames = chunks.flatMap(({ name, data }) => (name === 'ANMF' ? (frameOf(data) ?? []) : []))
  return { size: { width: header.readUIntLE(4, 3) + 1, height: header.readUIntLE(7, 3) + 1 }, frames }
}
