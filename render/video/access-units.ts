/** Start code and type of the delimiter that stands before each frame (ITU-T H.264, 7.3.1 and table 7-1, type 9). */
const DELIMITER = 9
const START = Buffer.from([0, 0, 1])

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
    if (((stream[at + 3] ?? 0) & 0x1f) === DELIMITER) {
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
