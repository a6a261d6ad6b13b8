/*
 * IVF, the plain container of VP9 streams: a file header of 32 bytes, and before each frame 4 bytes of its size and 8 of
 * its time, little-endian.
 */
const FILE_HEADER = 32
const FRAME_HEADER = 12
const RATE_AT = 16
const SCALE_AT = 20

/** Where each frame of an IVF stream begins, at its header. @throws RangeError when it is cut short */
export function ivfOffsets(stream: Buffer): readonly number[] {
  const offsets: number[] = []
  for (let at = FILE_HEADER; at < stream.length;) {
    if (at + FRAME_HEADER > stream.length || at + FRAME_HEADER + stream.readUInt32LE(at) > stream.length)
      throw new RangeError('a frame is cut short')
    offsets.push(at)
    at += FRAME_HEADER + stream.readUInt32LE(at)
  }
  return offsets
}

/** The header of a stream whose frames are counted. @param like a stream of the same pictures */
export function ivfHead(like: Buffer, fps: number): Buffer {
  const head = Buffer.from(like.subarray(0, FILE_HEADER))
  head.writeUInt32LE(fps, RATE_AT)
  head.writeUInt32LE(1, SCALE_AT)
  return head
}

/** The first frames of a stream with other times: counted from `first` on. @throws RangeError when there are fewer */
export function ivfFrames(stream: Buffer, offsets: readonly number[], frames: number, first: number): Buffer {
  if (frames > offsets.length) throw new RangeError(`asked for ${String(frames)} frames of ${String(offsets.length)}`)
  const part = Buffer.from(stream.subarray(FILE_HEADER, offsets[frames] ?? stream.length))
  for (let n = 0; n < frames; n += 1) part.writeBigUInt64LE(BigInt(first + n), (offsets[n] ?? 0) - FILE_HEADER + 4)
  return part
}
