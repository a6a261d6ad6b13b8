import type { Ms } from '@core/model'

/** A small form of a talk of this length takes no more than so many bytes, which is under 4 MB; a longer one in proportion. */
export const SMALL_FORM = { length: 600_000, bytes: 3_900_000 } as const
/** Bit rate of its voice, in bits a second: speech in Opus is good at that (RFC 7845, RFC 6716, 2.1.1). */
export const SMALL_VOICE = 24_000

/** How its pictures may be made, the best first: width in pixels, and quality of the JPEG. */
export const SMALL_PICTURES = [
  { width: 1280, quality: 80 },
  { width: 1280, quality: 68 },
  { width: 1120, quality: 62 },
  { width: 960, quality: 58 },
  { width: 960, quality: 45 },
  { width: 800, quality: 40 },
  { width: 640, quality: 35 },
] as const

/** Most bytes of a small form. @param length of the talk */
export const mostOfSmallForm = (length: Ms): number => Math.max(1, length / SMALL_FORM.length) * SMALL_FORM.bytes
