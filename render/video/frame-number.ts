import { BitReader, UNIT, UnlikeOurs, guarded, unitsOf } from './h264-units'

/**
 * A frame with another number (ITU-T H.264, 7.4.3, frame_num), so that it can stand elsewhere in a stream with the same headers.
 * @param frame all that belongs to one frame, with one slice in it that is not the first of its group
 * @param width of the number, in bits
 * @param number modulo 2^width
 * @throws UnlikeOurs when there is no such slice
 */
export function withFrameNumber(frame: Buffer, width: number, number: number): Buffer {
  const slice = unitsOf(frame).find(({ type }) => type === UNIT.slice || type === UNIT.instantSlice)
  if (slice?.type !== UNIT.slice) throw new UnlikeOurs('the frame has no slice that needs another frame')
  // After the unit's own byte: its first macroblock, its kind, its parameters (7.3.3).
  const reader = new BitReader(slice.bytes, 8)
  for (let n = 0; n < 3; n += 1) reader.number()
  const bytes = Buffer.from(slice.bytes)
  for (let n = 0; n < width; n += 1) {
    const at = reader.at + n
    const mask = 1 << (7 - (at & 7))
    const byte = bytes[at >> 3] ?? 0
    bytes[at >> 3] = ((number >> (width - 1 - n)) & 1) === 1 ? byte | mask : byte & ~mask
  }
  return Buffer.concat([frame.subarray(0, slice.from), guarded(bytes)])
}
