import { BitReader, BitWriter, UNIT, UnsupportedBitstream } from './h264-units'
import type { Unit } from './h264-units'
import type { StreamHeaders } from './stream-headers'

/** Where a slice is to stand. */
export interface SlicePlace {
  /** Number of the macroblock that it begins with, row by row. */
  readonly macroblock: number
  /** Number of its frame in its group. */
  readonly frame: number
  /** Tells a group's first frame from that of the group before it (7.4.3, idr_pic_id). */
  readonly group: number
}

/** Edges of blocks are smoothed within a slice and not across its own edges (7.4.3, disable_deblocking_filter_idc). */
const WITHIN = 2
const NOWHERE = 1

/**
 * A slice that was a whole picture, as a part of a larger one: it says where it stands, and is not smoothed towards its neighbours,
 * which it had none of. All else in it is as it was: neither the prediction of its blocks nor their arithmetic code goes beyond a slice
 * (ITU-T H.264, 6.4.9 and 9.3.1).
 * @param headers of the slice's own stream
 * @throws UnsupportedBitstream when it is of another kind
 */
export function placedSlice(slice: Unit, headers: StreamHeaders, place: SlicePlace): Buffer {
  const { bytes, type } = slice
  const reader = new BitReader(bytes, 8)
  const writer = new BitWriter()
  writer.bits(bytes[0] ?? 0, 8)
  // 7.3.3, slice_header, in its order.
  reader.readUe()
  writer.writeUe(place.macroblock)
  const kind = reader.readUe()
  writer.writeUe(kind)
  writer.writeUe(reader.readUe())
  reader.bits(headers.frameNumBits)
  writer.bits(place.frame, headers.frameNumBits)
  if (type === UNIT.idrSlice) {
    reader.readUe()
    writer.writeUe(place.group)
  }
  const from = reader.at
  const inter = kind % 5 === 0
  if (inter) {
    const references = reader.bit() === 1 ? reader.readUe() + 1 : headers.references
    passReordering(reader)
    if (headers.weighted) passWeights(reader, references)
  }
  passMarking(reader, type)
  if (inter) reader.readUe()
  reader.readUe()
  writer.copy(new BitReader(bytes, from), reader.at)
  const smoothed = reader.readUe()
  writer.writeUe(smoothed === NOWHERE ? NOWHERE : WITHIN)
  if (smoothed !== NOWHERE) {
    const offsets = reader.at
    reader.readUe()
    reader.readUe()
    writer.copy(new BitReader(bytes, offsets), reader.at)
  }
  // The arithmetic code begins with a whole byte in both.
  writer.fill()
  return Buffer.concat([writer.ended(), bytes.subarray(Math.ceil(reader.at / 8))])
}

/** 7.3.3.1, ref_pic_list_modification. */
function passReordering(reader: BitReader): void {
  if (reader.bit() === 0) return
  while (reader.readUe() !== 3) reader.readUe()
}

/** 7.3.3.2, pred_weight_table. */
function passWeights(reader: BitReader, references: number): void {
  reader.readUe()
  reader.readUe()
  for (let n = 0; n < references; n += 1) {
    for (const planes of [1, 2]) {
      if (reader.bit() === 0) continue
      for (let plane = 0; plane < planes * 2; plane += 1) reader.readUe()
    }
  }
}

/**
 * 7.3.3.3, dec_ref_pic_marking, of frames that others refer to: all of ours.
 * @throws UnsupportedBitstream when pictures are kept for long, which ours are not
 */
function passMarking(reader: BitReader, type: number): void {
  if (type === UNIT.idrSlice) reader.bits(2)
  else if (reader.bit() === 1) throw new UnsupportedBitstream('the stream keeps pictures otherwise than ours')
}
