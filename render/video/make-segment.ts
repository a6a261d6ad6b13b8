import { readFile, rm, writeFile } from 'node:fs/promises'
import type { Readable } from 'node:stream'
import { insetBox } from '@core/paint'
import type { PixelBox } from '@core/paint'
import { GROUP } from '@core/plan'
import type { Run, Segment } from '@core/plan'
import type { Size } from '@core/model'
import { feed, start } from '@render/process'
import { bandArgs, bandsOf, woven } from './bands'
import type { Band, Change } from './bands'
import { cameraFrames } from './camera-frames'
import type { CameraFile } from './camera-frames'
import { changedBox } from './changed-box'
import { checkBands, checkStream } from './check-stream'
import { CODECS } from './codec'
import { encoderArgs } from './encoder'
import type { Coding } from './encoder'
import type { FilmPainter } from './film-painter'
import { bandGraph, graphInputs, isLaidOver, maskOf, wholeGraph } from './segment-graph'
import { unlessUnlike } from './h264-units'
import { headersAlike } from './headers-alike'
import { pictureHead, streamHead } from './timed-pictures'

export interface SegmentOrder {
  readonly segment: Segment
  readonly runs: readonly Run[]
  readonly size: Size
  /** Of the finished picture. */
  readonly frame: Size
  readonly rate: number
  readonly coding: Coding
  readonly threads: number
  /** How much others are let go first, 0 to 19. */
  readonly niceness: number
  readonly camera: CameraFile | null
  /** File for the encoded frames; it is whole when this has returned. */
  readonly out: string
  /** Is given the frame last made, small, as JPEG, every two seconds of film. */
  readonly onLook: ((picture: Buffer) => void) | null
  readonly signal?: AbortSignal
  readonly onFrames: (frames: number) => void
}

/** How a segment was made: as bands, as whole pictures, or as these because a band had looked beyond itself. */
export type Manner = 'bands' | 'whole' | 'whole after bands'

/** Frames of a segment's own stream. A still picture is one group, which is repeated when the film is joined. */
export const framesOfStream = (segment: Segment): number =>
  segment.kind === 'still' ? Math.min(segment.frames, GROUP) : segment.drawn

/** Where each picture of a segment differs from the one before it; null for the first, which follows none of its own. */
const changesIn = ({ runs, size }: SegmentOrder): readonly (PixelBox | null)[] => runs.map((run, n) => {
  const last = runs[n - 1]
  return last === undefined ? null : changedBox(last.scene, run.scene, size)
})

/** What of the picture changes within a segment, as bands; null when it is to be made whole. */
function bandsFor({ segment, runs, size, frame, coding, camera }: SegmentOrder, boxes: readonly (PixelBox | null)[]): readonly Band[] | null {
  const fits = segment.kind === 'moving' && coding.format === 'mp4' && coding.most === null && size.width === frame.width && size.height === frame.height
  if (!fits) return null
  const changes: Change[] = []
  let at = 0
  for (const [n, run] of runs.entries()) {
    const box = boxes[n]
    if (box) changes.push({ box, frame: at })
    at += run.frames
  }
  return bandsOf(segment.inset === null || camera === null ? null : insetBox(segment.inset.framing, size), changes, segment.drawn, size)
}

/**
 * Makes a segment: its pictures are drawn here and the camera laid over them by the encoder's own filters.
 * @throws ProcessFailed when the encoder fails, Error when what it made is not what was asked
 */
export async function makeSegment(order: SegmentOrder, painter: FilmPainter): Promise<Manner> {
  const boxes = changesIn(order)
  const bands = bandsFor(order, boxes)
  const mask = `${order.out}.mask.png`
  try {
    if (isLaidOver(order) && order.segment.inset !== null) await writeFile(mask, await maskOf(order.segment.inset.framing, order.size).encode('png'))
    if (bands !== null && await makeBands(order, bands, { painter, boxes }, mask)) return 'bands'
    await makeWhole(order, { painter, boxes }, mask)
    return bands === null ? 'whole' : 'whole after bands'
  } finally {
    await rm(mask, { force: true })
  }
}

/** Who draws the pictures, and where each differs from the one before it. */
interface Painting {
  readonly painter: FilmPainter
  readonly boxes: readonly (PixelBox | null)[]
}

async function makeWhole(order: SegmentOrder, painting: Painting, mask: string): Promise<void> {
  const { segment, coding, rate, threads, out } = order
  const frames = framesOfStream(segment)
  await encode(order, painting, mask, wholeGraph({ ...order, look: order.onLook !== null }), frames, [{ name: 'film', frames, out, args: encoderArgs(coding, rate, threads) }])
  await checkStream(order, frames)
}

/** @returns false when the bands do not make up the picture that they were encoded from */
async function makeBands(order: SegmentOrder, bands: readonly Band[], painting: Painting, mask: string): Promise<boolean> {
  const { segment: { drawn }, size, rate, coding, out } = order
  const files = bands.map((band, n) => ({ band, name: `band${String(n)}`, frames: band.frames.length, out: `${out}.${String(n)}`, args: bandArgs(band, coding, rate) }))
  try {
    // Progress is told of the first: the one with most frames.
    await encode(order, painting, mask, bandGraph({ ...order, look: order.onLook !== null }, bands), drawn, files.toSorted((a, b) => b.frames - a.frames))
    const streams = await Promise.all(files.map(async ({ band, out }) => ({ band, stream: await readFile(out) })))
    const whole = await unlessUnlike(async () => woven(streams, await headersAlike(size, rate, coding), drawn))
    if (whole === null) return false
    await writeFile(out, whole)
    return await checkBands(order, files, drawn)
  } finally {
    await Promise.all(files.map(({ out }) => rm(out, { force: true })))
  }
}

interface Output {
  /** In the graph. */
  readonly name: string
  readonly frames: number
  readonly out: string
  /** Arguments for its encoder. */
  readonly args: readonly string[]
}

/** Draws a segment's pictures and has so many frames of them encoded. */
async function encode(order: SegmentOrder, { painter, boxes }: Painting, mask: string, graph: string, frames: number, outputs: readonly Output[]): Promise<void> {
  const { segment, runs, size, rate, coding } = order
  const { child, done } = start('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-nostats', '-progress', 'pipe:1', '-stats_period', '0.5', '-filter_complex_threads', '1',
    '-f', 'matroska', '-i', 'pipe:0',
    ...graphInputs({ ...order, look: false }, mask), '-filter_complex', graph,
    ...outputs.flatMap(({ name, frames, out, args }) => ['-map', `[${name}]`, '-frames:v', String(frames), ...args, '-f', CODECS[coding.format].stream, '-y', out]),
    ...(order.onLook === null ? [] : ['-map', '[look]', '-q:v', '5', '-f', 'mjpeg', 'pipe:3']),
  ], { signal: order.signal, niceness: order.niceness, onOutput: (stream) => { eachCount(stream, order.onFrames) }, ...(order.onLook === null ? {} : { onThird: (stream: Readable) => { eachPicture(stream, order.onLook) } }) })
  try {
    await feed(child, streamHead(size, rate))
    let at = 0
    const faces = segment.kind === 'drawn' && segment.inset !== null && order.camera !== null
      ? await cameraFrames(order.camera, segment.inset.at, segment.tempo, frames, rate, order.signal)
      : []
    for (const [n, { scene, frames: seen }] of (faces.length > 0 ? eachFrame(runs) : runs).entries()) {
      const face = faces[at]
      const picture = face !== undefined ? await painter.paintWithFace(scene, face) : n === 0 ? await painter.paint(scene) : await painter.paintNext(scene, boxes[n] ?? null)
      const count = segment.kind === 'still' ? frames : seen
      // A picture stays until the next one comes; behind the last there is none, so its last frame is handed over too.
      const last = at + count - 1
      for (const frame of last === frames - 1 && last > at ? [at, last] : [at]) {
        if (!await feed(child, pictureHead(frame, picture.length)) || !await feed(child, picture)) break
      }
      at += count
    }
  } finally {
    child.stdin?.end()
  }
  await done
}

/** Runs of one frame each: where the face is drawn by hand, no two frames are alike. */
const eachFrame = (runs: readonly Run[]): readonly Run[] => runs.flatMap((run) => Array.from({ length: run.frames }, () => ({ ...run, frames: 1 })))

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
