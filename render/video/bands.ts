import { GROUP } from '@core/plan'
import type { PixelBox } from '@core/paint'
import type { Size } from '@core/model'
import { UNIT, started, unitsOf } from './h264-units'
import { placedSlice } from './placed-slice'
import { headersOf } from './stream-headers'

/*
 * A picture of which only some rows change is encoded as bands: streams of their own, of which those that stand still cost next to
 * nothing, put together frame by frame as slices of one stream.
 */

/** Whole rows of the picture. */
export interface Band {
  /** In pixels; even, and whole macroblocks but for the picture's end. */
  readonly top: number
  readonly height: number
  readonly still: boolean
}

/** Rows and columns of a macroblock (ITU-T H.264, 3.86). */
const BLOCK = 16
/** Rows around what changes that are encoded with it, so that its blocks seldom look for what they were beyond their band. */
const MARGIN = 32
/** Bands pay when no more of the picture than this changes. */
const MOST = 0.8

/**
 * Cuts a picture into rows that stand still and rows that do not.
 * @param changed everything that changes at any time
 * @returns from top to bottom; null when bands would not pay
 */
export function bandsOf(changed: readonly PixelBox[], size: Size): readonly Band[] | null {
  if (changed.length === 0) return null
  const first = Math.min(...changed.map(({ y }) => y)) - MARGIN
  const end = Math.max(...changed.map(({ y, height }) => y + height)) + MARGIN
  const top = Math.max(0, Math.floor(first / BLOCK) * BLOCK)
  const bottom = Math.min(size.height, Math.ceil(end / BLOCK) * BLOCK)
  if (bottom - top > MOST * size.height) return null
  return [
    { top: 0, height: top, still: true }, { top, height: bottom - top, still: false }, { top: bottom, height: size.height - bottom, still: true },
  ].filter(({ height }) => height > 0)
}

/** Delimits frames of any kind (7.3.2.4). */
const DELIMITER = started(Buffer.from([UNIT.delimiter, 0xf0]))

/**
 * Puts bands together as slices of one stream.
 * @param bands each with its stream: one group if it stands still, which is repeated, and all frames otherwise; one slice a frame
 * @param like a stream of the whole picture, encoded alike, for its headers
 * @param frames of the whole
 * @throws Error when a band has not the frames that it should, or headers of its own kind
 */
export function woven(bands: readonly { readonly band: Band, readonly stream: Buffer }[], like: Buffer, frames: number): Buffer {
  const whole = headersOf(like)
  const group = Math.min(frames, GROUP)
  const parts = bands.map(({ band, stream }) => {
    const headers = headersOf(stream)
    const slices = unitsOf(stream).filter(({ type }) => type === UNIT.slice || type === UNIT.instantSlice)
    const wanted = band.still ? group : frames
    if (slices.length !== wanted) throw new Error(`a band has ${String(slices.length)} frames of ${String(wanted)}`)
    if (slices.some(({ type }, n) => (type === UNIT.instantSlice) !== (n % GROUP === 0))) throw new Error('a band begins a group where the others do not')
    if (headers.across !== whole.across || headers.numberBits !== whole.numberBits || !headers.picture.equals(whole.picture)) throw new Error('a band is encoded otherwise than the whole')
    return { headers, slices, first: (band.top / BLOCK) * whole.across, still: band.still }
  })
  const out: Buffer[] = []
  for (let frame = 0; frame < frames; frame += 1) {
    const inGroup = frame % GROUP
    out.push(DELIMITER)
    if (inGroup === 0) out.push(whole.bytes)
    for (const { headers, slices, first, still } of parts) {
      const slice = slices[still ? inGroup : frame]
      if (slice === undefined) throw new Error('a band ends too early')
      out.push(started(placedSlice(slice, headers, { macroblock: first, frame: inGroup % 2 ** headers.numberBits, group: Math.floor(frame / GROUP) % 2 })))
    }
  }
  return Buffer.concat(out)
}
