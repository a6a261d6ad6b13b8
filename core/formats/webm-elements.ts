/** Ids of the elements that are looked into or read (RFC 8794 and the Matroska specification, RFC 9559). */
export const ELEMENT = {
  segment: 0x18538067,
  tracks: 0x1654ae6b,
  trackEntry: 0xae,
  trackNumber: 0xd7,
  trackType: 0x83,
  cluster: 0x1f43b675,
  timestamp: 0xe7,
  blockGroup: 0xa0,
  block: 0xa1,
  simpleBlock: 0xa3,
} as const
/** Elements that are looked into rather than passed over. */
export const INSIDE: ReadonlySet<number> = new Set([
  ELEMENT.segment,
  ELEMENT.tracks,
  ELEMENT.trackEntry,
  ELEMENT.cluster,
  ELEMENT.blockGroup,
])

/**
 * A number of variable length, and how many bytes it takes; null when it is cut off.
 * @param marked whether its length marker is part of it, as it is of ids
 */
export function variable(bytes: Uint8Array, at: number, marked: boolean): { readonly value: number; readonly size: number } | null {
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
