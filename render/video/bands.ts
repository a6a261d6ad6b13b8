import { GOP_FRAMES } from '@core/plan'
import type { PixelBox, Size } from '@core/model'
import { filter } from '@render/filters'
import type { Filter } from '@render/filters'
import { encoderArgs, stillArgs } from './encoder'
import type { Coding } from './encoder'
import { DELIMITED, UNIT, UnsupportedBitstream, slicesOf, withStartCode } from './h264-units'
import { placedSlice } from './placed-slice'
import { headersOf } from './stream-headers'
import type { StreamHeaders } from './stream-headers'
import { unchangedSlice } from './unchanged-slice'

/*
 * A picture of which only some rows change is encoded as bands: streams of their own, of which those that stand still cost next to
 * nothing, put together frame by frame as slices of one stream.
 */

/** Whole rows of the picture. */
export interface Band {
  /** In pixels; even, and whole macroblocks but for the picture's end. */
  readonly top: number
  readonly height: number
  /** Frames that are encoded, in order: in all others nothing changes. Of a band in which nothing ever does, the first alone. */
  readonly frames: readonly number[]
  /** Whether its one frame begins every group, since nothing ever changes. */
  readonly still: boolean
}

/** What changes in a picture, and in which frame. */
export interface Change {
  readonly box: PixelBox
  readonly frame: number
}

/** Rows and columns of a macroblock (ITU-T H.264, 3.86). */
const BLOCK = 16
/** Rows around what changes that are encoded with it, so that its blocks seldom look for what they were beyond their band: three blocks. */
const MARGIN = 48
/** How far up or down a block may look for what it was; the least that the encoder can be told. */
const REACH = 32
/** Bands pay when no more of all rows of all frames than this is encoded. */
const MOST = 0.8
/**
 * So many frames of rows that change now and then are encoded at the beginning of each group: the encoder looks five ahead to see that
 * they stay.
 */
const SETTLED = 12
/** So many frames after a change are encoded, in which the encoder makes finer what came in haste. */
const AFTER = 8

interface Rows {
  readonly top: number
  readonly bottom: number
}

/** Rows around some boxes, at least one, in whole blocks. */
function rowsOf(boxes: readonly PixelBox[], size: Size): Rows {
  const first = Math.min(...boxes.map(({ y }) => y)) - MARGIN
  const end = Math.max(...boxes.map(({ y, height }) => y + height)) + MARGIN
  return { top: Math.max(0, Math.floor(first / BLOCK) * BLOCK), bottom: Math.min(size.height, Math.ceil(end / BLOCK) * BLOCK) }
}

/**
 * Rows that move all the time, and those of what changes now and then so near to their edges that it would be cut in two. What changes
 * all of the picture is cut in any case.
 */
function withNeighbours(always: PixelBox, changed: readonly PixelBox[], size: Size): Rows {
  const boxes = [always]
  for (;;) {
    const { top, bottom } = rowsOf(boxes, size)
    const near = changed.find(
      (box) =>
        box.height < size.height &&
        box.y + box.height > top - MARGIN &&
        box.y < bottom + MARGIN &&
        ((top > 0 && box.y < top + MARGIN) || (bottom < size.height && box.y + box.height > bottom - MARGIN)),
    )
    if (near === undefined) return { top, bottom }
    // It lies inside then, a margin from either edge: it is not found again.
    boxes.push(near)
  }
}

/** Frames that are encoded of rows that change in some: these, a few after each, and those by which each group begins. */
function framesToEncode(changes: readonly Change[], frames: number): readonly number[] {
  if (changes.length === 0) return [0]
  const wanted = new Set<number>()
  const want = (from: number, count: number): void => {
    for (let frame = from; frame < Math.min(from + count, frames); frame += 1) wanted.add(frame)
  }
  for (let group = 0; group < frames; group += GOP_FRAMES) want(group, SETTLED)
  for (const { frame } of changes) want(frame, AFTER)
  return [...wanted].sort((a, b) => a - b)
}

/**
 * Cuts a picture into rows that move all the time, rows that do now and then, and rows that stand still.
 * @param always what is moved in every frame; null: nothing
 * @param changes what changes besides
 * @returns from top to bottom; null when bands would not pay
 */
export function bandsOf(always: PixelBox | null, changes: readonly Change[], frames: number, size: Size): readonly Band[] | null {
  const changed = changes.map(({ box }) => box)
  if (always === null && changed.length === 0) return null
  const moving = always === null ? null : withNeighbours(always, changed, size)
  const all = rowsOf([...(always === null ? [] : [always]), ...changed], size)
  const edges = [0, all.top, ...(moving === null ? [] : [moving.top, moving.bottom]), all.bottom, size.height]
  const bands = edges
    .slice(1)
    .map((bottom, n): Band => {
      const top = edges[n] ?? 0
      if (top === moving?.top)
        return { top, height: bottom - top, still: false, frames: Array.from({ length: frames }, (_, frame) => frame) }
      const here = changes.filter(({ box }) => box.y - MARGIN < bottom && box.y + box.height + MARGIN > top)
      return { top, height: bottom - top, still: here.length === 0, frames: framesToEncode(here, frames) }
    })
    .filter(({ height }) => height > 0)
  const encoded = bands.reduce((sum, band) => sum + band.height * band.frames.length, 0)
  return encoded > MOST * size.height * frames ? null : bands
}

/** Of bands of which one alone changes, that one. @throws Error when none does */
export function bandThatChanges(bands: readonly Band[]): Band {
  const band = bands.find(({ still }) => !still)
  if (band === undefined) throw new Error('nothing changes in these bands')
  return band
}

/** A filter that lets through the frames that are encoded of a band. */
export function selectFrames({ frames }: Band): Filter {
  const ranges: (readonly [number, number])[] = []
  for (const frame of frames) {
    const last = ranges.at(-1)
    if (last?.[1] === frame - 1) ranges[ranges.length - 1] = [last[0], frame]
    else ranges.push([frame, frame])
  }
  const [first] = ranges
  if (first !== undefined && ranges.length === 1 && first[0] === 0) return filter('trim', [], { end_frame: first[1] + 1 })
  return filter('select', [ranges.map(([from, to]) => `between(n,${String(from)},${String(to)})`).join('+')])
}

/**
 * Rows by which it is seen whether a band looks beyond itself: only blocks that lie within reach of its edges can (with three rows for
 * pixels between pixels), and all others that are wrong go back to one of those.
 * @param lines of the whole
 */
export function rowsToCompare({ top, height }: Band, lines: number): readonly { readonly top: number; readonly height: number }[] {
  if (height <= 2 * MARGIN) return [{ top, height }]
  return [
    ...(top === 0 ? [] : [{ top, height: MARGIN }]),
    ...(top + height === lines ? [] : [{ top: top + height - MARGIN, height: MARGIN }]),
  ]
}

/** Arguments for a band's encoder: its frames are at their times, and groups begin where those of the others do. */
export const bandArgs = ({ frames, still }: Band, coding: Coding, fps: number): readonly string[] =>
  still
    ? stillArgs(coding, fps)
    : [
        ...encoderArgs(coding, fps, 1),
        '-fps_mode',
        'passthrough',
        '-x264opts',
        `mvrange=${String(REACH)}`,
        '-g',
        String(GOP_FRAMES * 1000),
        '-forced-idr',
        '1',
        '-force_key_frames',
        frames
          .filter((frame) => frame % GOP_FRAMES === 0)
          .map((frame) => (frame / fps).toFixed(6))
          .join(','),
      ]

/** A band as it was encoded. */
export interface MadeBand {
  readonly band: Band
  /** One slice for each of its frames. */
  readonly stream: Buffer
}

/**
 * Puts bands together as slices of one stream.
 * @param whole headers of the whole picture, encoded alike
 * @param frames of the whole
 * @throws UnsupportedBitstream when a band has not the frames that it should, or headers of its own kind
 */
export function woven(bands: readonly MadeBand[], whole: StreamHeaders, frames: number): Buffer {
  const parts = bands.map(({ band, stream }) => {
    const headers = headersOf(stream)
    const slices = slicesOf(stream)
    if (slices.length !== band.frames.length)
      throw new UnsupportedBitstream(`a band has ${String(slices.length)} frames of ${String(band.frames.length)}`)
    if (slices.some(({ type }, n) => (type === UNIT.idrSlice) !== ((band.frames[n] ?? 0) % GOP_FRAMES === 0)))
      throw new UnsupportedBitstream('a band begins a group where the others do not')
    if (headers.mbWidth !== whole.mbWidth || headers.frameNumBits !== whole.frameNumBits || !headers.pps.equals(whole.pps))
      throw new UnsupportedBitstream('a band is encoded otherwise than the whole')
    const known = new Map(band.frames.map((frame, n) => [frame, slices[n]]))
    const [macroblock, count] = [(band.top / BLOCK) * whole.mbWidth, headers.mbHeight * headers.mbWidth]
    return (frame: number): Buffer => {
      const inGroup = frame % GOP_FRAMES
      const slice = known.get(band.still ? inGroup : frame)
      const place = { macroblock, frame: inGroup % 2 ** headers.frameNumBits, group: Math.floor(frame / GOP_FRAMES) % 2 }
      return slice === undefined ? unchangedSlice(whole, place, count) : placedSlice(slice, headers, place)
    }
  })
  const out: Buffer[] = []
  for (let frame = 0; frame < frames; frame += 1) {
    out.push(DELIMITED)
    if (frame % GOP_FRAMES === 0) out.push(whole.bytes)
    for (const sliceAt of parts) out.push(withStartCode(sliceAt(frame)))
  }
  return Buffer.concat(out)
}
