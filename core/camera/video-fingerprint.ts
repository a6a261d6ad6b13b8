import type { Size } from '@core/model'

/** A picture of a camera, so small that many can be kept: enough to know it again. */
export interface SmallPicture {
  /** When it was taken, or where it stands, in ms; need not be whole. */
  readonly at: number
  /** Lightness of its pixels, row by row, 0 to 255; `PRINT_SIZE` of them. */
  readonly pixels: Uint8Array
}

/** Pixels of a small picture. */
export const PRINT_SIZE: Size = { width: 48, height: 27 }
const PIXELS = PRINT_SIZE.width * PRINT_SIZE.height
const TIME_BYTES = 8
const RECORD = TIME_BYTES + PIXELS
/** No more pictures are taken of one stretch. */
export const MOST_PICTURES = 120
/** Bytes that a video fingerprint takes at most. */
export const MOST_PRINT_BYTES = MOST_PICTURES * RECORD
/** Farthest from a stretch's beginning that a picture of its print may have been taken, in ms. */
const FARTHEST = 60_000

/** A video fingerprint as it is kept and sent: for each picture its time as a float of 64 bits, little end first, and its pixels. */
export function packVideoFingerprint(pictures: readonly SmallPicture[]): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(pictures.length * RECORD)
  const view = new DataView(bytes.buffer)
  for (const [n, { at, pixels }] of pictures.entries()) {
    view.setFloat64(n * RECORD, at, true)
    bytes.set(pixels.subarray(0, PIXELS), n * RECORD + TIME_BYTES)
  }
  return bytes
}

/** Reads a video fingerprint. @returns null when it is none: cut short, too long, or with times that cannot be */
export function unpackVideoFingerprint(bytes: Uint8Array): readonly SmallPicture[] | null {
  if (bytes.length === 0 || bytes.length % RECORD !== 0 || bytes.length > MOST_PRINT_BYTES) return null
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const pictures = Array.from({ length: bytes.length / RECORD }, (_, n): SmallPicture => ({
    at: view.getFloat64(n * RECORD, true),
    pixels: bytes.slice(n * RECORD + TIME_BYTES, (n + 1) * RECORD),
  }))
  return pictures.every(({ at }) => Number.isFinite(at) && Math.abs(at) <= FARTHEST) ? pictures : null
}
