import { BitReader, UNIT, UnsupportedBitstream, withStartCode, unitsOf } from './h264-units'

/** What the headers of a stream say that is needed to read its slices (ITU-T H.264, 7.3.2.1.1 and 7.3.2.2). */
export interface StreamHeaders {
  /** Bits of a frame's number. */
  readonly frameNumBits: number
  /** Pictures that a slice may refer to when it does not say otherwise. */
  readonly references: number
  /** Whether slices may say that a picture has become lighter or darker. */
  readonly weighted: boolean
  /** Macroblocks in a row, and rows of them. */
  readonly mbWidth: number
  readonly mbHeight: number
  /** From which slices say by how much theirs differs. */
  readonly initQp: number
  /** Those of its pictures, which do not depend on their size. */
  readonly pps: Buffer
  /** All of them, with start codes. */
  readonly bytes: Buffer
}

/** The one profile that our encoder makes (annex A.2.4). */
const HIGH = 100

/** What the headers of all our streams say. */
const OURS = {
  colour: 1,
  depthLuma: 0,
  depthChroma: 0,
  special: 0,
  counted: 2,
  wholeFrames: 1,
  arithmetic: 1,
  groups: 0,
  smoothingSaid: 1,
  redundant: 0,
} as const

/** @throws UnsupportedBitstream when a stream has no headers, or such as our encoder does not write */
export function headersOf(stream: Buffer): StreamHeaders {
  const units = unitsOf(stream)
  const [sps, pps] = [UNIT.sps, UNIT.pps].map((kind) => units.find(({ type }) => type === kind)?.bytes)
  if (sps?.[1] !== HIGH || pps === undefined) throw new UnsupportedBitstream('the stream has no headers of the High profile')
  // After the unit's own byte, the profile, its flags and the level.
  const one = new BitReader(sps, 32)
  one.readUe()
  const [colour, ...depths] = [one.readUe(), one.readUe(), one.readUe()]
  const special = one.bits(2)
  const frameNumBits = one.readUe() + 4
  // Frames come in the order in which they are seen, so that nothing but their numbers counts them (8.2.1.3).
  const counted = one.readUe()
  one.readUe()
  one.bit()
  const mbWidth = one.readUe() + 1
  const mbHeight = one.readUe() + 1
  const wholeFrames = one.bit()
  const two = new BitReader(pps, 8)
  two.readUe()
  two.readUe()
  const arithmetic = two.bit()
  two.bit()
  const groups = two.readUe()
  const references = two.readUe() + 1
  two.readUe()
  const weighted = two.bit() === 1
  two.bits(2)
  const initQp = 26 + two.readSe()
  two.readUe()
  two.readUe()
  const smoothingSaid = two.bit()
  two.bit()
  const redundant = two.bit()
  const [depthLuma, depthChroma] = depths
  const said = { colour, depthLuma, depthChroma, special, counted, wholeFrames, arithmetic, groups, smoothingSaid, redundant }
  const ours = (Object.keys(OURS) as (keyof typeof OURS)[]).every((name) => said[name] === OURS[name])
  if (!ours) throw new UnsupportedBitstream('the stream has headers of another kind than ours')
  return {
    frameNumBits,
    references,
    weighted,
    mbWidth,
    mbHeight,
    initQp,
    pps,
    bytes: Buffer.concat([withStartCode(sps), withStartCode(pps)]),
  }
}
