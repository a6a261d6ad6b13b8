import { ELEMENT, INSIDE, variable } from './webm-elements'

const VIDEO = 1

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
    if (id.value === ELEMENT.trackNumber) track = bytes[at + size.value - 1] ?? 0
    else if (id.value === ELEMENT.trackType && bytes[at] === VIDEO) video = track
    else if (id.value === ELEMENT.simpleBlock || id.value === ELEMENT.block) frames += variable(bytes, at, false)?.value === video ? 1 : 0
    at += size.value
  }
  return frames
}
