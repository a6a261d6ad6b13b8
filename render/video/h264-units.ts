/*
 * The units that an H.264 byte stream consists of, and the bits in them (ITU-T H.264, annex B and 7.3.1).
 */

/** A stream is not as our encoder usually writes them, so that it cannot be changed here: it is to be made another way. */
export class UnsupportedBitstream extends Error {}

/** @returns what the work gives; null when it meets a stream that is unlike ours */
export async function nullIfUnsupported<Value>(work: () => Promise<Value>): Promise<Value | null> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof UnsupportedBitstream) return null
    throw error
  }
}

/** Kinds of units (table 7-1). */
export const UNIT = { slice: 1, idrSlice: 5, sps: 7, pps: 8, delimiter: 9 } as const

/** What stands before each unit (annex B.1). */
export const START = Buffer.from([0, 0, 1])
const EMULATION_PREVENTION = Buffer.from([0, 0, 3])
const ZEROS = Buffer.from([0, 0])

export interface Unit {
  /** Where the unit begins in its stream, after its start code. */
  readonly from: number
  readonly type: number
  /** With its own first byte, and without the bytes that keep start codes out of it (7.4.1.1). */
  readonly bytes: Buffer
}

/** The units of a stream in order. */
export function unitsOf(stream: Buffer): readonly Unit[] {
  const units: Unit[] = []
  for (let at = stream.indexOf(START); at !== -1;) {
    const from = at + START.length
    const next = stream.indexOf(START, from)
    const end = stream[next - 1] === 0 ? next - 1 : next
    const to = next === -1 ? stream.length : end
    units.push({ from, type: (stream[from] ?? 0) & 0x1f, bytes: withoutEmulationPrevention(stream.subarray(from, to)) })
    at = next
  }
  return units
}

function withoutEmulationPrevention(bytes: Buffer): Buffer {
  const parts: Buffer[] = []
  let from = 0
  for (let at = bytes.indexOf(EMULATION_PREVENTION); at !== -1; at = bytes.indexOf(EMULATION_PREVENTION, from)) {
    parts.push(bytes.subarray(from, at + 2))
    from = at + EMULATION_PREVENTION.length
  }
  return parts.length === 0 ? bytes : Buffer.concat([...parts, bytes.subarray(from)])
}

/** A unit's bytes as they stand in a stream: none of them looks like a start code. */
function withEmulationPrevention(bytes: Buffer): Buffer {
  const parts: Buffer[] = []
  let from = 0
  for (let at = bytes.indexOf(ZEROS); at !== -1;) {
    const next = bytes[at + 2]
    if (next === undefined) break
    if (next > 3) {
      at = bytes.indexOf(ZEROS, at + 1)
      continue
    }
    parts.push(bytes.subarray(from, at + 2), EMULATION_PREVENTION.subarray(2))
    from = at + 2
    at = bytes.indexOf(ZEROS, from)
  }
  return Buffer.concat([...parts, bytes.subarray(from)])
}

/** A unit with a start code before it. */
export const withStartCode = (bytes: Buffer): Buffer => Buffer.concat([Buffer.from([0]), START, withEmulationPrevention(bytes)])

/** Delimits frames of any kind (7.3.2.4), with a start code. */
export const DELIMITED = withStartCode(Buffer.from([UNIT.delimiter, 0xf0]))

/** The slices of a stream in order. */
export const slicesOf = (stream: Buffer): readonly Unit[] =>
  unitsOf(stream).filter(({ type }) => type === UNIT.slice || type === UNIT.idrSlice)

/** Reads bits, the highest of each byte first. */
export class BitReader {
  readonly #bytes: Buffer
  #at: number

  /** @param at in bits */
  constructor(bytes: Buffer, at: number) {
    this.#bytes = bytes
    this.#at = at
  }

  /** The bit that comes next. */
  get at(): number {
    return this.#at
  }

  bit(): number {
    const bit = ((this.#bytes[this.#at >> 3] ?? 0) >> (7 - (this.#at & 7))) & 1
    this.#at += 1
    return bit
  }

  bits(count: number): number {
    let value = 0
    for (let n = 0; n < count; n += 1) value = value * 2 + this.bit()
    return value
  }

  /** A number with a sign (9.1.1, se). @throws UnsupportedBitstream when there is none */
  readSe(): number {
    const value = this.readUe()
    return value % 2 === 1 ? (value + 1) / 2 : -value / 2
  }

  /** A number of variable length (9.1, ue; one with a sign, se, takes the same bits). @throws UnsupportedBitstream when there is none */
  readUe(): number {
    let zeros = 0
    while (this.bit() === 0) {
      zeros += 1
      if (zeros > 31) throw new UnsupportedBitstream('a number in the stream is too long')
    }
    return 2 ** zeros + this.bits(zeros) - 1
  }
}

/** Writes bits, the highest of each byte first. */
export class BitWriter {
  readonly #bits: number[] = []

  bits(value: number, count: number): void {
    for (let n = count - 1; n >= 0; n -= 1) this.#bits.push(Math.floor(value / 2 ** n) % 2)
  }

  /** See `BitReader.readSe`. */
  writeSe(value: number): void {
    this.writeUe(value > 0 ? value * 2 - 1 : -value * 2)
  }

  /** See `BitReader.readUe`. */
  writeUe(value: number): void {
    const width = Math.floor(Math.log2(value + 1))
    this.bits(0, width)
    this.bits(value + 1, width + 1)
  }

  /** Copies what a reader has before it, up to a bit. */
  copy(reader: BitReader, to: number): void {
    while (reader.at < to) this.#bits.push(reader.bit())
  }

  /** Goes on to the next whole byte with ones (7.3.4, cabac_alignment_one_bit). */
  fill(): void {
    while (this.#bits.length % 8 !== 0) this.#bits.push(1)
  }

  /** All bits in whole bytes, the last filled up with zeros. */
  ended(): Buffer {
    return Buffer.from(
      Array.from({ length: Math.ceil(this.#bits.length / 8) }, (_, byte) =>
        [0, 1, 2, 3, 4, 5, 6, 7].reduce((value, n) => value * 2 + (this.#bits[byte * 8 + n] ?? 0), 0),
      ),
    )
  }
}
