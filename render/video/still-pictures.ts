import { writeFile } from 'node:fs/promises'
import { GOP_FRAMES } from '@core/plan'
import type { Scene } from '@core/scene'
import type { Size } from '@core/model'
import { filter, filtersText } from '@render/filters'
import { feed, start } from '@render/process'
import { checkDecodes } from './check-stream'
import { stillArgs } from './encoder'
import type { Coding } from './encoder'
import type { FilmPainter } from './film-painter'
import { DELIMITED, UNIT, UnsupportedBitstream, slicesOf, withStartCode, nullIfUnsupported } from './h264-units'
import { headersAlike } from './headers-alike'
import { placedSlice } from './placed-slice'
import { framed } from './segment-graph'
import { headersOf } from './stream-headers'
import type { StreamHeaders } from './stream-headers'
import { unchangedSlice } from './unchanged-slice'
import { yuvInput } from './yuv'

/*
 * A picture that stands still is encoded once. What follows it in its group are frames in which nothing changes. Many such pictures
 * are encoded in one go: starting an encoder takes longer than encoding a picture.
 */

/** How still pictures are made. */
export interface StillsOrder {
  readonly size: Size
  /** Of the finished picture. */
  readonly frame: Size
  readonly fps: number
  readonly coding: Coding
  /** How much others are let go first, 0 to 19. */
  readonly niceness: number
  readonly signal?: AbortSignal
}

/** One of them. */
export interface StillPart {
  readonly scene: Scene
  /** File for a group of it; it is whole when this has returned. */
  readonly out: string
}

/** Whether still pictures can be made this way. Where a rate bounds them, the encoder is to spread them over their time. */
export const areEncodedOnce = ({ format, most }: Coding): boolean => format === 'mp4' && most === null

/** Frames in which nothing changes that are decoded as well when a group is checked; they differ in nothing but their numbers. */
const CHECKED = 2

/**
 * A picture and frames in which nothing changes.
 * @param picture as the encoder made it: a slice that is a whole picture, the first of a group
 * @param frames 1 or more
 */
function stillGroup(picture: Buffer, headers: StreamHeaders, frames: number): Buffer {
  const nothing = (frame: number): readonly Buffer[] => [
    DELIMITED,
    withStartCode(unchangedSlice(headers, { macroblock: 0, frame: frame % 2 ** headers.frameNumBits }, headers.mbWidth * headers.mbHeight)),
  ]
  return Buffer.concat([
    DELIMITED,
    headers.bytes,
    withStartCode(picture),
    ...Array.from({ length: frames - 1 }, (_, n) => nothing(n + 1)).flat(),
  ])
}

/** Encodes pictures, each by itself. @returns slices as each would be alone in a stream */
async function encodeStills(
  { size, frame, fps, coding, niceness, signal }: StillsOrder,
  parts: readonly StillPart[],
  painter: Pick<FilmPainter, 'paint'>,
  headers: StreamHeaders,
): Promise<readonly Buffer[]> {
  const { child, done } = start(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-nostats',
      ...yuvInput(size, fps, 'pipe:0'),
      '-vf',
      filtersText([filter('setsar', [1]), ...framed(size, frame)]),
      ...stillArgs(coding, fps),
      '-f',
      'h264',
      'pipe:1',
    ],
    { niceness, ...(signal === undefined ? {} : { signal }) },
  )
  try {
    for (const { scene } of parts) if (!(await feed(child, await painter.paint(scene)))) break
  } finally {
    child.stdin?.end()
  }
  const { stdout } = await done
  const own = headersOf(stdout)
  if (!own.bytes.equals(headers.bytes)) throw new UnsupportedBitstream('a still picture is encoded otherwise than one that moves')
  const slices = slicesOf(stdout)
  if (slices.length !== parts.length || slices.some(({ type }) => type !== UNIT.idrSlice))
    throw new UnsupportedBitstream(`there are ${String(slices.length)} pictures of ${String(parts.length)}`)
  return slices.map((slice) => placedSlice(slice, headers, { macroblock: 0, frame: 0, group: 0 }))
}

/**
 * Makes still pictures, and decodes them once.
 * @returns false when the encoder's stream is of a kind that cannot be lengthened: they are to be made another way
 * @throws ProcessFailed when the encoder fails, Error when what it made is not what was asked
 */
export async function makeStills(order: StillsOrder, parts: readonly StillPart[], painter: Pick<FilmPainter, 'paint'>): Promise<boolean> {
  const made = await nullIfUnsupported(async () => {
    const headers = await headersAlike(order.frame, order.fps, order.coding)
    const pictures = await encodeStills(order, parts, painter, headers)
    return { headers, pictures }
  })
  if (made === null) return false
  const groups = (frames: number): readonly Buffer[] => made.pictures.map((picture) => stillGroup(picture, made.headers, frames))
  await checkDecodes(Buffer.concat(groups(1 + CHECKED)), order)
  await Promise.all(
    groups(GOP_FRAMES).map(async (group, n) => {
      await writeFile(parts[n]?.out ?? '', group)
    }),
  )
  return true
}
