/*
 * Frames of an H.264 byte stream bear numbers (ITU-T H.264, 7.4.3, frame_num). Here they are given other ones, so that a frame can
 * stand elsewhere in a stream with the same headers.
 */

const PARAMETERS = 7
const SLICE = 1
const INSTANT = 5
/** Profiles whose headers say more (7.3.2.1.1); ours is one of them. */
const HIGH = 100

/** A unit of the stream without its start code and without the bytes that keep start codes out of it (7.4.1.1). */
interface Unit {
  readonly from: number
  readonly type: number
  readonly bytes: Buffer
}

function unitsOf(stream: Buffer): readonly Unit[] {
  const units: Unit[] = []
  for (let at = stream.indexOf('\x00\x00\x01', 0, 'latin1'); at !== -1;) {
    const from = at + 3
    const next = stream.indexOf('\x00\x00\x01', from, 'latin1')
    const to = next === -1 ? stream.length : stream[next - 1] === 0 ? next - 1 : next
    units.push({ from, type: (stream[from] ?? 0) & 0x1f, bytes: unescaped(stream.subarray(from, to)) })
    at = next
  }
  return units
}

const unescaped = (bytes: Buffer): Buffer =>
  Buffer.from(bytes.filter((byte, n) => !(byte === 3 && n >= 2 && bytes[n - 1] === 0 && bytes[n - 2] === 0)))

function escaped(bytes: Buffer): Buffer {
  const out: number[] = []
  let zeros = 0
  for (const byte of bytes) {
    if (zeros >= 2 && byte <= 3) {
      out.push(3)
      zeros = 0
    }
    out.push(byte)
    zeros = byte === 0 ? zeros + 1 : 0
  }
  return Buffer.from(out)
}

/** Reads bits, the highest of each byte first. */
class Bits {
  #at: number

  constructor(private readonly bytes: Buffer, at: number) {
    this.#at = at
  }

  get at(): number {
    return this.#at
  }

  bit(): number {
    const bit = ((this.bytes[this.#at >> 3] ?? 0) >> (7 - (this.#at & 7))) & 1
    this.#at += 1
    return bit
  }

  /** An unsigned number of variable length (9.1, ue). */
  number(): number {
    let zeros = 0
    while (this.bit() === 0) {
      zeros += 1
      if (zeros > 31) throw new RangeError('a number in the stream is too long')
    }
    let value = 1
    for (let n = 0; n < zeros; n += 1) value = value * 2 + this.bit()
    return value - 1
  }
}

/**
 * How many bits a stream's frame numbers have (7.3.2.1.1, log2_max_frame_num_minus4).
 * @throws Error when the stream is not of the kind that our encoder makes
 */
export function frameNumberBits(stream: Buffer): number {
  const parameters = unitsOf(stream).find(({ type }) => type === PARAMETERS)
  if (parameters?.bytes[1] !== HIGH) throw new Error('the stream has no headers of the High profile')
  // After the unit's own byte, the profile, its flags and the level.
  const bits = new Bits(parameters.bytes, 32)
  bits.number()
  const colour = bits.number()
  const depths = [bits.number(), bits.number()]
  const [bypass, scaling] = [bits.bit(), bits.bit()]
  const width = bits.number() + 4
  // Frames come in the order in which they are seen, so nothing but their numbers counts them (8.2.1.3).
  const counted = bits.number()
  if (colour !== 1 || depths.some((depth) => depth !== 0) || bypass !== 0 || scaling !== 0 || counted !== 2) throw new Error('the stream has headers of another kind than ours')
  return width
}

/**
 * A frame with another number.
 * @param frame all that belongs to one frame, with one slice in it that is not the first of its group
 * @param width of the number, in bits
 * @param number modulo 2^width
 * @throws Error when there is no such slice
 */
export function withFrameNumber(frame: Buffer, width: number, number: number): Buffer {
  const slice = unitsOf(frame).find(({ type }) => type === SLICE || type === INSTANT)
  if (slice?.type !== SLICE) throw new Error('the frame has no slice that needs another frame')
  // After the unit's own byte: its first macroblock, its kind, its parameters (7.3.3).
  const bits = new Bits(slice.bytes, 8)
  for (let n = 0; n < 3; n += 1) bits.number()
  const bytes = Buffer.from(slice.bytes)
  for (let n = 0; n < width; n += 1) {
    const at = bits.at + n
    const mask = 1 << (7 - (at & 7))
    const byte = bytes[at >> 3] ?? 0
    bytes[at >> 3] = ((number >> (width - 1 - n)) & 1) === 1 ? byte | mask : byte & ~mask
  }
  return Buffer.concat([frame.subarray(0, slice.from), escaped(bytes)])
}
