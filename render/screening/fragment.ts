/*
 * Fragmented MP4 (ISO/IEC 14496-12, 8.8; ISO/IEC 23000-19, CMAF): what all parts of a track have in common stands in a header of its own,
 * and each part says where in the track's time it belongs.
 */

/** A file of one fragment, apart. */
export interface Fragment {
  /** File type and movie header, the same for every part that is encoded alike. */
  readonly header: Buffer
  /** The fragment and its data. */
  readonly part: Buffer
}

interface Box {
  readonly type: string
  readonly begin: number
  readonly end: number
}

/** Bytes before a box's own content: its length and its type. */
const HEAD = 8

/** Boxes one after the other. @throws RangeError when one is longer than what holds it */
function boxesIn(bytes: Buffer, begin: number, end: number): readonly Box[] {
  const boxes: Box[] = []
  for (let at = begin; at + HEAD <= end;) {
    const length = bytes.readUInt32BE(at)
    if (length < HEAD || at + length > end) throw new RangeError('a box does not end within its file')
    boxes.push({ type: bytes.toString('latin1', at + 4, at + HEAD), begin: at, end: at + length })
    at += length
  }
  return boxes
}

function boxOf(bytes: Buffer, boxes: readonly Box[], type: string): Box {
  const found = boxes.find((box) => box.type === type)
  if (found === undefined) throw new RangeError(`the file has no box ${type} of ${String(bytes.length)} bytes`)
  return found
}

const inside = (bytes: Buffer, box: Box): readonly Box[] => boxesIn(bytes, box.begin + HEAD, box.end)

/** Content of `tfdt` (8.8.12) of version 1: version and flags, then the time in 64 bits. */
const TIME_AT = HEAD + 4

/**
 * Takes a file of one fragment apart and puts that where it belongs.
 * @param file with one `moof` and its `mdat`, of one track
 * @param decodeTime of its first sample, in ticks of the track
 * @param sequence number of the part in its track, from 1
 * @throws RangeError when it is not such a file
 */
export function fragmentOf(file: Buffer, decodeTime: number, sequence: number): Fragment {
  const boxes = boxesIn(file, 0, file.length)
  const [moof, mdat] = [boxOf(file, boxes, 'moof'), boxOf(file, boxes, 'mdat')]
  if (boxes.filter((box) => box.type === 'moof').length !== 1) throw new RangeError('the file has more than one fragment')
  const header = Buffer.concat(['ftyp', 'moov'].map((type) => boxOf(file, boxes, type)).map((box) => file.subarray(box.begin, box.end)))
  const part = Buffer.from(file.subarray(moof.begin, mdat.end))
  const within = boxesIn(part, HEAD, moof.end - moof.begin)
  const time = boxOf(part, inside(part, boxOf(part, within, 'traf')), 'tfdt')
  if (part.readUInt8(time.begin + HEAD) !== 1) throw new RangeError('the fragment has no room for its time')
  part.writeBigUInt64BE(BigInt(decodeTime), time.begin + TIME_AT)
  part.writeUInt32BE(sequence, boxOf(part, within, 'mfhd').begin + TIME_AT)
  return { header, part }
}

/** Has ffmpeg write a file of one fragment whatever its length. */
export const ONE_FRAGMENT: readonly string[] = ['-f', 'mp4', '-movflags', '+empty_moov+default_base_moof', '-frag_duration', '2000000000']
