import { ELEMENT, INSIDE, variable } from './webm-elements'

const VIDEO = 1

/** An element's id, and where its content lies. */
interface Element {
  readonly id: number
  readonly from: number
  readonly size: number
}

/** The element that begins at some byte; null when it was broken off there. */
function elementAt(bytes: Uint8Array, at: number): Element | null {
  const id = variable(bytes, at, true)
  const size = id === null ? null : variable(bytes, at + id.size, false)
  return id === null || size === null ? null : { id: id.value, from: at + id.size + size.size, size: size.value }
}

/**
 * How many pictures a WebM file holds, complete or broken off.
 * @returns pictures of its video track; 0 when it has none
 */
export function framesInWebm(bytes: Uint8Array): number {
  let frames = 0
  let track = 0
  let video: number | null = null
  for (let element = elementAt(bytes, 0); element !== null;) {
    const { id, from, size } = element
    if (id === ELEMENT.trackNumber) track = bytes[from + size - 1] ?? 0
    else if (id === ELEMENT.trackType && bytes[from] === VIDEO) video = track
    else if ((id === ELEMENT.simpleBlock || id === ELEMENT.block) && variable(bytes, from, false)?.value === video) frames += 1
    element = elementAt(bytes, INSIDE.has(id) ? from : from + size)
  }
  return frames
}
