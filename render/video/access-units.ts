import { START, UNIT } from './h264-units'

/**
 * Where each frame of an H.264 byte stream begins. Relies on the delimiters our encoder writes.
 * @returns byte offsets in order; one for each frame
 */
export function frameOffsets(stream: Buffer): readonly number[] {
  const offsets: number[] = []
  let at = 0
  for (;;) {
    at = stream.indexOf(START, at)
    if (at === -1 || at + 3 >= stream.length) return offsets
    if (((stream[at + 3] ?? 0) & 0x1f) === UNIT.delimiter) {
      offsets.push(at > 0 && stream[at - 1] === 0 ? at - 1 : at)
    }
    at += 3
  }
}

/** The first frames of a stream. Nothing in them needs what is cut off, since no frame refers to a later one. */
export function firstFrames(stream: Buffer, offsets: readonly number[], frames: number): Buffer {
  if (frames > offsets.length) throw new RangeError(`asked for ${String(frames)} frames of ${String(offsets.length)}`)
  return stream.subarray(0, offsets[frames] ?? stream.length)
}
