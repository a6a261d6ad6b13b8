/** Ids of the elements that are looked into or read (RFC 8794 and the Matroska specification, RFC 9559). */
const SEGMENT = 0x18538067
const TRACKS = 0x1654ae6b
const TRACK_ENTRY = 0xae
const TRACK_NUMBER = 0xd7
const TRACK_TYPE = 0x83
const CLUSTER = 0x1f43b675
const BLOCK_GROUP = 0xa0
const BLOCK = 0xa1
const SIMPLE_BLOCK = 0xa3
const VIDEO = 1
const INSIDE: ReadonlySet<number> = new Set([SEGMENT, TRACKS, TRACK_ENTRY, CLUSTER, BLOCK_GROUP])

/** A number of variable length, and how many bytes it takes; null when it is cut off. @param marked whether its length marker is part of it, as it is of ids */
function variable(bytes: Uint8Array, at: number, marked: boolean): { readonly value: number, readonly size: number } | null {
  const first = bytes[at]
  if (first === undefined || first === 0) return null
  const size = Math.clz32(first) - 23
  if (at + size > bytes.length) return null
  const low = 0xff >> size
  let value = marked ? first : first & low
  let unknown = (first & low) === low
  for (let n = 1; n < size; n += 1) {
    const byte = bytes[at + n] ?? 0
    unknown &&= byte === 0xff
    value = value * 256 + byte
  }
  // All ones: of unknown length, as a recorder writes what it has not ended yet.
  return { value: !marked && unknown ? Infinity : value, size }
}

/**
 * How many pictures a WebM file holds, complete or broken off.
 * @returns pictures of its video track; 0 when it has none
 */
export function framesInWebm(bytes: Uint8Array): number {
  let frames = 0
  let at = 0
  let track = 0
  let video: number | null = null
  while (at < bytes.length) {
    const id = variable(bytes, at, true)
    const size = id === null ? null : variable(bytes, at + id.size, false)
    if (id === null || size === null) break
    at += id.size + size.size
    if (INSIDE.has(id.value)) continue
    if (id.value === TRACK_NUMBER) track = bytes[at + size.value - 1] ?? 0
    else if (id.value === TRACK_TYPE && bytes[at] === VIDEO) video = track
    else if (id.value === SIMPLE_BLOCK || id.value === BLOCK) frames += variable(bytes, at, false)?.value === video ? 1 : 0
    at += size.value
  }
  return frames
}
