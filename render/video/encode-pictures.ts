import type { Readable } from 'node:stream'
import { graphText } from '@render/filters'
import { feed, start } from '@render/process'
import { bandThatChanges } from './bands'
import type { Band } from './bands'
import { CODECS } from './codec'
import { paintedPictures } from './painted-pictures'
import type { Painting } from './painted-pictures'
import { inkedBandChains } from './segment-graph'
import type { SegmentOrder } from './segment-order'
import { pictureHead, streamHead } from './timed-pictures'
import { rowsOfPicture } from './yuv'

export interface Output {
  /** In the graph. */
  readonly name: string
  readonly frames: number
  readonly out: string
  /** Arguments for its encoder. */
  readonly args: readonly string[]
}

/** What an encoder is handed and is to make of it. */
interface Wiring {
  readonly graph: string
  /** Arguments for what the graph reads besides the pictures. */
  readonly inputs: readonly string[]
  /** That are drawn. */
  readonly frames: number
  readonly outputs: readonly Output[]
  /** Whether the graph has small pictures to look at. */
  readonly look: boolean
}

const QUIET = ['-hide_banner', '-loglevel', 'error', '-nostats'] as const
const PICTURES = ['-filter_complex_threads', '1', '-f', 'matroska', '-i', 'pipe:0'] as const

const outputArgs = ({ coding }: Pick<SegmentOrder, 'coding'>, outputs: readonly Output[]): readonly string[] =>
  outputs.flatMap(({ name, frames, out, args }) => [
    '-map',
    `[${name}]`,
    '-frames:v',
    String(frames),
    ...args,
    '-f',
    CODECS[coding.format].stream,
    '-y',
    out,
  ])

/** Draws a segment's pictures and has them encoded. */
export async function encodePictures(
  order: SegmentOrder,
  painting: Painting,
  { graph, inputs, frames, outputs, look }: Wiring,
): Promise<void> {
  const { size, fps } = order
  const { child, done } = start(
    'ffmpeg',
    [
      ...QUIET,
      '-progress',
      'pipe:1',
      '-stats_period',
      '0.5',
      ...PICTURES,
      ...inputs,
      '-filter_complex',
      graph,
      ...outputArgs(order, outputs),
      ...(look ? ['-map', '[look]', '-q:v', '5', '-f', 'mjpeg', 'pipe:3'] : []),
    ],
    {
      signal: order.signal,
      niceness: order.niceness,
      onOutput: (stream) => {
        eachCount(stream, order.onFrames)
      },
      ...(look
        ? {
            onThird: (stream: Readable) => {
              eachPicture(stream, order.onLook)
            },
          }
        : {}),
    },
  )
  try {
    let open = await feed(child, streamHead([size], fps))
    for await (const { picture, seenAt } of paintedPictures(order, painting, frames)) {
      for (const part of seenAt.flatMap((frame) => [pictureHead(1, frame, picture.length), picture])) open &&= await feed(child, part)
      if (!open) break
    }
  } finally {
    child.stdin?.end()
  }
  await done
}

/** A segment in which ink grows within one band of rows and all else stands still. */
export interface InkedPart {
  readonly order: SegmentOrder
  readonly painting: Painting
  readonly bands: readonly Band[]
  readonly outputs: readonly Output[]
}

/**
 * Draws the pictures of segments in which ink grows and has them encoded, all by one encoder, since starting one takes longer than such a
 * segment. Of each it is handed the first picture, for the bands that stand still, and then the rows in which ink grows.
 * @param parts one or more, all with the same size, rate and coding
 */
export async function encodeInked(parts: readonly [InkedPart, ...InkedPart[]]): Promise<void> {
  const [
    {
      order: { size, fps, coding, signal, niceness },
    },
  ] = parts
  const { child, done } = start(
    'ffmpeg',
    [
      ...QUIET,
      ...PICTURES,
      '-filter_complex',
      graphText(parts.flatMap(({ bands }, n) => inkedBandChains({ size, fps }, bands, n))),
      ...parts.flatMap(({ outputs }, n) =>
        outputArgs(
          { coding },
          outputs.map((output) => ({ ...output, name: `part${String(n)}${output.name}` })),
        ),
      ),
    ],
    { signal, niceness },
  )
  const handOver = async (track: number, frame: number, rows: readonly Buffer[]): Promise<boolean> => {
    let open = await feed(
      child,
      pictureHead(
        track,
        frame,
        rows.reduce((sum, { length }) => sum + length, 0),
      ),
    )
    for (const row of rows) open &&= await feed(child, row)
    return open
  }
  try {
    let open = await feed(
      child,
      streamHead(
        parts.flatMap(({ bands }) => [size, { width: size.width, height: bandThatChanges(bands).height }]),
        fps,
      ),
    )
    for (const [n, { order, painting, bands }] of parts.entries()) {
      const [page, rows] = [2 * n + 1, 2 * n + 2]
      for await (const { picture, seenAt } of paintedPictures(order, painting, order.segment.drawn)) {
        if (seenAt[0] === 0) open &&= await handOver(page, 0, [picture])
        for (const frame of seenAt) open &&= await handOver(rows, frame, rowsOfPicture(picture, size, bandThatChanges(bands)))
        if (!open) break
        order.onFrames(seenAt.at(-1) ?? 0)
      }
      await painting.painter.showTo(order.onLook)
    }
  } finally {
    child.stdin?.end()
  }
  await done
}

/** Hears how many frames the encoder says it has made. */
function eachCount(stream: Readable, hear: (frames: number) => void): void {
  stream.on('data', (data: Buffer) => {
    const frames = /frame=(\d+)/.exec(data.toString())?.[1]
    if (frames !== undefined) hear(Number(frames))
  })
}

/** Cuts a stream of JPEG pictures at their ends (ITU-T T.81, marker EOI). */
function eachPicture(stream: Readable, hear: ((picture: Buffer) => void) | null): void {
  let held = Buffer.alloc(0)
  stream.on('data', (data: Buffer) => {
    held = Buffer.concat([held, data])
    for (let end = held.indexOf('\xff\xd9', 0, 'latin1'); end !== -1; end = held.indexOf('\xff\xd9', 0, 'latin1')) {
      hear?.(held.subarray(0, end + 2))
      held = held.subarray(end + 2)
    }
  })
}
