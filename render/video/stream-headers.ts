import { BitReader, UNIT, UnlikeOurs, started, unitsOf } from './h264-units'

/** What the headers of a stream say that is needed to read its slices (ITU-T H.264, 7.3.2.1.1 and 7.3.2.2). */
export interface StreamHeaders {
  /** Bits of a frame's number. */
  readonly numberBits: number
  /** Pictures that a slice may refer to when it does not say otherwise. */
  readonly references: number
  /** Whether slices may say that a picture has become lighter or darker. */
  readonly weighted: boolean
  /** Macroblocks in a row, and rows of them. */
  readonly across: number
  readonly down: number
  /** From which slices say by how much theirs differs. */
  readonly quantiser: number
  /** Those of its pictures, which do not depend on their size. */
  readonly picture: Buffer
  /** All of them, with start codes. */
  readonly bytes: Buffer
}

/** The one profile that our encoder makes (annex A.2.4). */
const HIGH = 100

/** @throws UnlikeOurs when a stream has no headers, or such as our encoder does not write */
export function headersOf(stream: Buffer): StreamHeaders {
  const units = unitsOf(stream)
  const [sequence, picture] = [UNIT.sequence, UNIT.picture].map((kind) => units.find(({ type }) => type === kind)?.bytes)
  if (sequence?.[1] !== HIGH || picture === undefined) throw new UnlikeOurs('the stream has no headers of the High profile')
  // After the unit's own byte, the profile, its flags and the level.
  const one = new BitReader(sequence, 32)
  one.number()
  const [colour, ...depths] = [one.number(), one.number(), one.number()]
  const special = one.bits(2)
  const numberBits = one.number() + 4
  // Frames come in the order in which they are seen, so that nothing but their numbers counts them (8.2.1.3).
  const counted = one.number()
  one.number()
  one.bit()
  const across = one.number() + 1
  const down = one.number() + 1
  const wholeFrames = one.bit()
  const two = new BitReader(picture, 8)
  two.number()
  two.number()
  const arithmetic = two.bit()
  two.bit()
  const groups = two.number()
  const references = two.number() + 1
  two.number()
  const weighted = two.bit() === 1
  two.bits(2)
  const quantiser = 26 + two.signed()
  two.number()
  two.number()
  const smoothingSaid = two.bit()
  two.bit()
  const redundant = two.bit()
  const ours =
    colour === 1 &&
    depths.every((depth) => depth === 0) &&
    special === 0 &&
    counted === 2 &&
    wholeFrames === 1 &&
    arithmetic === 1 &&
    groups === 0 &&
    smoothingSaid === 1 &&
    redundant === 0
  if (!ours) throw new UnlikeOurs('the stream has headers of another kind than ours')
  return { numberBits, references, weighted, across, down, quantiser, picture, bytes: Buffer.concat([started(sequence), started(picture)]) }
}
