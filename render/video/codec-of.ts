/** Where in `avcC` (ISO/IEC 14496-15, 5.3.3.1) profile, compatibility and level stand, from the box's type on. */
const PROFILE_AT = 5

/** How the pictures behind a header are coded, in the words of RFC 6381. @throws RangeError when it is no header of H.264 */
export function codecOf(header: Buffer): string {
  const found = header.indexOf('avcC', 0, 'latin1')
  if (found < 0 || found + PROFILE_AT + 3 > header.length) throw new RangeError('the header names no H.264')
  return `avc1.${header.subarray(found + PROFILE_AT, found + PROFILE_AT + 3).toString('hex')}`
}
