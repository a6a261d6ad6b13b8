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
import type { Woven } from './check-stream'
import { CODECS } from './codec'
import { encoderArgs } from './encoder'
import type { Coding } from './encoder'
import type { FilmPainter } from './film-painter'
import { facedBandGraph, graphInputs, inkedBandGraph, isLaidOver, maskOf, wholeGraph } from './segment-graph'
import { unlessUnlike } from './h264-units'
import { headersAlike } from './headers-alike'
import { pictureHead, streamHead } from './timed-pictures'
import { rowsOfPicture, yuvInput } from './yuv'

export interface SegmentOrder {
  readonly segment: Segment
  readonly runs: readonly Run[]
  readonly size: Size
  /** Of the finished picture. */
  readonly frame: Size
  readonly rate: number
  readonly coding: Coding
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
 * Makes segments one after the other: their pictures are drawn here and the camera laid over them by the encoder's own filters.
 * @returns how each was made
 * @throws ProcessFailed when the encoder fails, Error when what it made is not what was asked
 */
export async function makeSegments(orders: readonly SegmentOrder[], painter: FilmPainter): Promise<readonly Manner[]> {
  const works = orders.map((order) => {
    const boxes = changesIn(order)
    return { order, painting: { painter, boxes }, bands: bandsFor(order, boxes), mask: `${order.out}.mask.png` }
  })
  const woven = new Map<SegmentOrder, Woven>()
  try {
    for (const { order, painting, bands, mask } of works) {
      if (isLaidOver(order) && order.segment.inset !== null) await writeFile(mask, await maskOf(order.segment.inset.framing, order.size).encode('png'))
      const made = bands === null ? null : await makeBands(order, bands, painting, mask)
      if (made !== null) woven.set(order, made)
    }
    const banded = [...woven]
    const good = banded.length === 0 ? [] : await checkBands(banded.map(([, made]) => made), orders[0] ?? { niceness: 0 })
    const asBands = new Set(banded.filter((_, n) => good[n]).map(([order]) => order))
    for (const { order, painting, mask } of works) if (!asBands.has(order)) await makeWhole(order, painting, mask)
    return works.map(({ order, bands }) => (asBands.has(order) ? 'bands' : bands === null ? 'whole' : 'whole after bands'))
  } finally {
    await Promise.all(works.flatMap(({ order, bands, mask }) => [mask, pageOf(order), ...(bands ?? []).map((_, n) => bandOf(order, n))].map((path) => rm(path, { force: true }))))
  }
}

const pageOf = ({ out }: SegmentOrder): string => `${out}.page`
const bandOf = ({ out }: SegmentOrder, n: number): string => `${out}.${String(n)}`

/** Who draws the pictures, and where each differs from the one before it. */
interface Painting {
  readonly painter: FilmPainter
  readonly boxes: readonly (PixelBox | null)[]
}

async function makeWhole(order: SegmentOrder, painting: Painting, mask: string): Promise<void> {
  const { segment, coding, rate, out } = order
  const frames = framesOfStream(segment)
  const look = order.onLook !== null
  await encode(order, painting, { graph: wholeGraph({ ...order, look }), inputs: graphInputs(order, mask), look, rows: null, frames, outputs: [{ name: 'film', frames, out, args: encoderArgs(coding, rate, 1) }] })
  await checkStream(order, frames)
}

/** @returns what is to be checked; null when the encoder's streams cannot be put together */
async function makeBands(order: SegmentOrder, bands: readonly Band[], painting: Painting, mask: string): Promise<Woven | null> {
  const { segment: { drawn }, size, rate, coding, out } = order
  const files = bands.map((band, n) => ({ band, name: `band${String(n)}`, frames: band.frames.length, out: bandOf(order, n), args: bandArgs(band, coding, rate) }))
  const page = pageOf(order)
  // Progress is told of the first: the one with most frames.
  const shared = { frames: drawn, outputs: files.toSorted((a, b) => b.frames - a.frames) }
  const look = order.onLook !== null
  // Without a face it is one band in which something changes, that of the ink.
  const inked = isLaidOver(order) ? undefined : bands.find(({ still }) => !still)
  await encode(order, painting, inked === undefined
    ? { ...shared, graph: facedBandGraph({ ...order, look }, bands), inputs: graphInputs(order, mask), look, rows: null }
    : { ...shared, graph: inkedBandGraph(order, bands), inputs: yuvInput(size, rate, page), look: false, rows: { band: inked, page } })
  const streams = await Promise.all(files.map(async ({ band, out }) => ({ band, stream: await readFile(out) })))
  const whole = await unlessUnlike(async () => woven(streams, await headersAlike(size, rate, coding), drawn))
  if (whole === null) return null
  await writeFile(out, whole)
  return { out, coding, size, bands: files, frames: drawn }
}

interface Output {
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
  /** Only a band's rows are handed over of each picture, and the first picture as a file; null: whole pictures. */
  readonly rows: { readonly band: Band, readonly page: string } | null
}

/** Draws a segment's pictures and has them encoded. */
async function encode(order: SegmentOrder, painting: Painting, { graph, inputs, frames, outputs, look, rows }: Wiring): Promise<void> {
  const { size, rate, coding } = order
  const { child, done } = start('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-nostats', '-progress', 'pipe:1', '-stats_period', '0.5', '-filter_complex_threads', '1',
    '-f', 'matroska', '-i', 'pipe:0', ...inputs, '-filter_complex', graph,
    ...outputs.flatMap(({ name, frames, out, args }) => ['-map', `[${name}]`, '-frames:v', String(frames), ...args, '-f', CODECS[coding.format].stream, '-y', out]),
    ...(look ? ['-map', '[look]', '-q:v', '5', '-f', 'mjpeg', 'pipe:3'] : []),
  ], { signal: order.signal, niceness: order.niceness, onOutput: (stream) => { eachCount(stream, order.onFrames) }, ...(look ? { onThird: (stream: Readable) => { eachPicture(stream, order.onLook) } } : {}) })
  try {
    for await (const { picture, seenAt } of painted(order, painting, frames)) {
      if (seenAt[0] === 0) {
        if (rows !== null) await writeFile(rows.page, picture)
        await feed(child, streamHead({ width: size.width, height: rows?.band.height ?? size.height }, rate))
      }
      const parts = rows === null ? [picture] : rowsOfPicture(picture, size, rows.band)
      const bytes = parts.reduce((sum, { length }) => sum + length, 0)
      let open = true
      for (const part of seenAt.flatMap((frame) => [pictureHead(frame, bytes), ...parts])) open &&= await feed(child, part)
      if (!open) break
    }
    if (rows !== null) await painting.painter.showTo(order.onLook)
  } finally {
    child.stdin?.end()
  }
  await done
}

/** A segment's pictures one after the other, with the frames at which each is to be handed over. The same buffer each time. */
async function* painted({ segment, runs, camera, rate, signal }: SegmentOrder, { painter, boxes }: Painting, frames: number): AsyncGenerator<{ readonly picture: Buffer, readonly seenAt: readonly number[] }> {
  const faces = segment.kind === 'drawn' && segment.inset !== null && camera !== null ? cameraFrames(camera, segment.inset.at, segment.tempo, frames, rate, signal) : null
  try {
    let face = await nextOf(faces)
    let at = 0
    for (const [n, { scene, frames: seen }] of (face === null ? runs : eachFrame(runs)).entries()) {
      const picture = face !== null ? await painter.paintWithFace(scene, face) : n === 0 ? await painter.paint(scene) : await painter.paintNext(scene, boxes[n] ?? null)
      // A picture stays until the next one comes; behind the last there is none, so its last frame is handed over too.
      const last = at + (segment.kind === 'still' ? frames : seen) - 1
      yield { picture, seenAt: last === frames - 1 && last > at ? [at, last] : [at] }
      at = last + 1
      if (face !== null) face = await nextOf(faces) ?? face
    }
  } finally {
    // Should the encoder have gone before, the camera is read no further either.
    await faces?.return(undefined)
  }
}

/** What comes next; null: nothing does. */
async function nextOf<Value>(values: AsyncGenerator<Value> | null): Promise<Value | null> {
  const next = await values?.next()
  return next === undefined || next.done === true ? null : next.value
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
