import { BitWriter, UNIT } from './h264-units'
import type { SlicePlace } from './placed-slice'
import type { StreamHeaders } from './stream-headers'

/*
 * A slice in which every macroblock is skipped, so that all of it stays as it was in the frame before. It is the same few bytes whatever is
 * seen, and is written here rather than cut out of what an encoder makes of an empty picture of the same size.
 */

/** The quantiser that the slice declares. No block uses it; the coarsest has the coder expect from the start that blocks are skipped. */
const QUANTISER = 51
/** State from which the coder begins to tell skipped blocks under that quantiser (ITU-T H.264, 9.3.1.1 and table 9-13: m = 23, n = 33). */
const FIRST_STATE = 42
const LAST_STATE = 62
/** Widths of the less likely outcome in states 42 to 62 (table 9-44). */
const UNLIKELY: readonly (readonly number[])[] = [
  [16, 20, 23, 27],
  [15, 19, 22, 25],
  [14, 18, 21, 24],
  [14, 17, 20, 23],
  [13, 16, 19, 22],
  [12, 15, 18, 21],
  [12, 14, 17, 20],
  [11, 14, 16, 19],
  [11, 13, 15, 18],
  [10, 12, 15, 17],
  [10, 12, 14, 16],
  [9, 11, 13, 15],
  [9, 11, 12, 14],
  [8, 10, 12, 14],
  [8, 9, 11, 13],
  [7, 9, 11, 12],
  [7, 9, 10, 12],
  [7, 8, 10, 11],
  [6, 8, 9, 11],
  [6, 7, 9, 10],
  [6, 7, 8, 9],
]

/** Binary arithmetic code (9.3.4.2), as much of it as skipped blocks need. */
class SkipCoder {
  readonly #out: BitWriter
  #low = 0
  #range = 510
  #state = FIRST_STATE
  #outstanding = 0
  #first = true

  constructor(out: BitWriter) {
    this.#out = out
  }

  #put(bit: number): void {
    // The first bit is always 0 and is not written.
    if (this.#first) this.#first = false
    else this.#out.bits(bit, 1)
    for (; this.#outstanding > 0; this.#outstanding -= 1) this.#out.bits(1 - bit, 1)
  }

  #renew(): void {
    for (; this.#range < 256; this.#range *= 2, this.#low *= 2) {
      if (this.#low >= 512) {
        this.#low -= 512
        this.#put(1)
      } else if (this.#low < 256) {
        this.#put(0)
      } else {
        this.#low -= 256
        this.#outstanding += 1
      }
    }
  }

  /** A macroblock is skipped, as was likely. */
  skip(): void {
    this.#range -= UNLIKELY[this.#state - FIRST_STATE]?.[(this.#range >> 6) & 3] ?? 0
    this.#state = Math.min(this.#state + 1, LAST_STATE)
    this.#renew()
  }

  /** The slice goes on. */
  goOn(): void {
    this.#range -= 2
    this.#renew()
  }

  /** The slice ends; the last bit is the unit's own. */
  end(): void {
    this.#low += this.#range - 2
    this.#range = 2
    this.#renew()
    this.#put((this.#low >> 9) & 1)
    this.#out.bits(((this.#low >> 7) & 3) | 1, 2)
  }
}

/** Codes of so many skipped macroblocks. */
const known = new Map<number, Buffer>()

function skipped(count: number): Buffer {
  const found = known.get(count)
  if (found !== undefined) return found
  const out = new BitWriter()
  const coder = new SkipCoder(out)
  for (let n = 0; n < count; n += 1) {
    if (n > 0) coder.goOn()
    coder.skip()
  }
  coder.end()
  const made = out.ended()
  known.set(count, made)
  return made
}

/**
 * @param headers of the stream it is to stand in
 * @param place not of a group's first frame, in which there is nothing to be left as it was
 * @param count macroblocks in it, 1 or more
 * @returns the unit's bytes
 */
export function unchangedSlice(headers: StreamHeaders, place: Omit<SlicePlace, 'group'>, count: number): Buffer {
  const out = new BitWriter()
  // nal_ref_idc 2: later frames refer to it, as they do to all of ours.
  out.bits(0x40 | UNIT.slice, 8)
  // 7.3.3, slice_header, in its order; its kind is P.
  out.writeUe(place.macroblock)
  out.writeUe(0)
  out.writeUe(0)
  out.bits(place.frame, headers.frameNumBits)
  // It refers to one frame: the one before it, as light as it was.
  out.bits(1, 1)
  out.writeUe(0)
  out.bits(0, 1)
  if (headers.weighted) {
    out.writeUe(0)
    out.writeUe(0)
    out.bits(0, 2)
  }
  // Pictures are kept as usual.
  out.bits(0, 1)
  out.writeUe(0)
  out.writeSe(QUANTISER - headers.initQp)
  // Where nothing changes there are no new edges to be smoothed.
  out.writeUe(1)
  out.fill()
  return Buffer.concat([out.ended(), skipped(count)])
}
