import { readFile, writeFile } from 'node:fs/promises'
import type { Readable } from 'node:stream'
import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { coverCrop, insetBox, insetPath } from '@core/paint'
import type { PaintContext } from '@core/paint'
import { GROUP } from '@core/plan'
import type { Run, Segment } from '@core/plan'
import type { Framing, Size } from '@core/model'
import { feed, run as runProgram, start } from '@render/process'
import { FROM_ITS_ZERO, cameraFrames } from './camera-frames'
import { CODECS } from './codec'
import { encoderArgs } from './encoder'
import type { Coding } from './encoder'
import type { FilmPainter } from './film-painter'
import { SETTLED, lengthened, unchangedFrame } from './still-group'
import { pictureHead, streamHead } from './timed-pictures'

/** Where a camera is to be read from. */
export interface CameraFile {
  readonly path: string
  readonly size: Size
}

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

/** Colour of bars beside slides that have another shape than the picture. */
const BARS = '0x101A18'

/** Height of the picture shown while a film is being made. */
const LOOK_HEIGHT = 270

/** Frames of a segment's own stream. A still picture is one group, which is repeated when the film is joined. */
export const framesOfStream = (segment: Segment): number =>
  segment.kind === 'still' ? Math.min(segment.frames, GROUP) : segment.drawn

/** Frames that the encoder makes of them; the rest of a still group are frames in which nothing changes. */
const framesToEncode = (segment: Segment, { format }: Coding): number =>
  segment.kind === 'still' && format === 'mp4' ? Math.min(segment.frames, SETTLED) : framesOfStream(segment)

function maskOf(framing: Framing, size: Size): Canvas {
  const box = insetBox(framing, size)
  const canvas = createCanvas(box.width, box.height)
  const ctx = canvas.getContext('2d')
  ctx.fillStyle = '#000000'
  ctx.fillRect(0, 0, box.width, box.height)
  ctx.fillStyle = '#FFFFFF'
  const paint: PaintContext<Canvas> = ctx
  insetPath(paint, framing, { ...box, x: 0, y: 0 }, size)
  paint.fill()
  return canvas
}

/** Puts bars beside what was drawn, or takes its edges off. */
function framed(size: Size, frame: Size): string {
  if (size.width === frame.width && size.height === frame.height) return ''
  const [x, y] = [Math.abs(frame.width - size.width) / 2, Math.abs(frame.height - size.height) / 2].map((pixels) => String(Math.floor(pixels / 2) * 2))
  const box = `${String(frame.width)}:${String(frame.height)}:${x ?? '0'}:${y ?? '0'}`
  return size.width >= frame.width && size.height >= frame.height ? `,crop=${box}` : `,pad=${box}:color=${BARS}`
}

async function graphOf(order: SegmentOrder): Promise<{ readonly inputs: readonly string[], readonly graph: string }> {
  const { segment, camera, size, rate } = order
  const look = order.onLook === null ? '' : `;[shown]fps=1/2:start_time=0,scale=-2:${String(LOOK_HEIGHT)},format=yuvj420p[look]`
  const end = `${framed(size, order.frame)}${order.onLook === null ? '[film]' : `,split[film][shown]${look}`}`
  if (segment.inset === null || camera === null || segment.kind === 'drawn') return { inputs: [], graph: `[0:v]fps=${String(rate)}:start_time=0${end}` }
  const box = insetBox(segment.inset.framing, size)
  const crop = coverCrop(camera.size, box, segment.inset.framing)
  const mask = `${order.out}.mask.png`
  await writeFile(mask, await maskOf(segment.inset.framing, size).encode('png'))
  // Every stream ends, the mask's after as many frames as there are: a filter goes on while any of them does.
  const { tempo } = segment
  const taken = ((segment.drawn / rate) * (tempo.num / tempo.den)).toFixed(4)
  const face = [
    `crop=${String(crop.width)}:${String(crop.height)}:${String(crop.x)}:${String(crop.y)}`,
    // This library changes size and matrix in one go; the other one takes a way over RGB for it and twice as long.
    `zscale=${String(box.width)}:${String(box.height)}:filter=bicubic:matrixin=170m:matrix=709:rangein=tv:range=tv`,
    ...(segment.inset.framing.mirrored ? ['hflip'] : []),
    'format=yuv420p',
    ...(tempo.num === tempo.den ? [] : [`setpts=PTS*${String(tempo.den)}/${String(tempo.num)}`]),
    `fps=${String(rate)}:start_time=0`,
  ].join(',')
  return {
    inputs: [
      '-protocol_whitelist', 'file,pipe', '-f', 'matroska,webm', ...FROM_ITS_ZERO, '-ss', String(Math.max(0, segment.inset.at) / 1000), '-t', taken, '-i', camera.path,
      '-protocol_whitelist', 'file,pipe', '-f', 'png_pipe', '-framerate', String(rate), '-i', mask,
    ],
    graph: `[1:v]${face}[face];[2:v]format=gray,loop=loop=${String(segment.drawn - 1)}:size=1[mask];[face][mask]alphamerge[inset];`
      + `[0:v]fps=${String(rate)}:start_time=0[page];[page][inset]overlay=${String(box.x)}:${String(box.y)}:eof_action=repeat:format=yuv420${end}`,
  }
}

/**
 * Makes a segment: its pictures are drawn here and the camera laid over them by the encoder's own filters.
 * @returns the frames that were encoded
 * @throws ProcessFailed when the encoder fails, Error when what it made is not what was asked
 */
export async function makeSegment(order: SegmentOrder, painter: FilmPainter): Promise<number> {
  const { segment, runs, size, rate } = order
  const frames = framesToEncode(segment, order.coding)
  const { inputs, graph } = await graphOf(order)
  const lookArgs = order.onLook === null ? [] : [
    '-map', '[look]', '-q:v', '5', '-f', 'mjpeg', 'pipe:3',
  ]
  const { child, done } = start('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-nostats', '-progress', 'pipe:1', '-stats_period', '0.5', '-filter_complex_threads', '1',
    '-f', 'matroska', '-i', 'pipe:0',
    ...inputs, '-filter_complex', graph,
    '-map', '[film]', '-frames:v', String(frames), ...encoderArgs(order.coding, rate, order.threads), '-f', CODECS[order.coding.format].stream, '-y', order.out,
    ...lookArgs,
  ], { signal: order.signal, niceness: order.niceness, onOutput: (stream) => { eachCount(stream, order.onFrames) }, ...(order.onLook === null ? {} : { onThird: (stream: Readable) => { eachPicture(stream, order.onLook) } }) })
  try {
    await feed(child, streamHead(size, rate))
    let at = 0
    const faces = segment.kind === 'drawn' && segment.inset !== null && order.camera !== null
      ? await cameraFrames(order.camera, segment.inset.at, segment.tempo, frames, rate, order.signal)
      : []
    for (const run of faces.length > 0 ? eachFrame(runs) : runs) {
      const face = faces[at]
      const picture = face === undefined ? await painter.paint(run) : await painter.paintWithFace(run.scene, face)
      const count = segment.kind === 'still' ? frames : run.frames
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
  const all = framesOfStream(segment)
  if (all > frames) await writeFile(order.out, lengthened(await readFile(order.out), await unchangedFrame(order.frame, rate, order.coding), all))
  await check(order, all)
  return frames
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

/** Decodes what was made, once, and counts it. Smoothing block edges and turning coefficients into pixels are left out: they find no faults and take half of the time. */
async function check(order: SegmentOrder, frames: number): Promise<void> {
  const codec = CODECS[order.coding.format]
  const found = codec.offsets(await readFile(order.out)).length
  if (found !== frames) throw new Error(`the encoder made ${String(found)} frames of ${String(frames)}`)
  await runProgram('ffmpeg', [
    '-hide_banner', '-loglevel', 'error', '-xerror', '-threads', String(order.threads), '-skip_loop_filter', 'all', '-skip_idct', 'all',
    '-protocol_whitelist', 'file,pipe', '-f', codec.stream, '-i', order.out, '-f', 'null', '-',
  ], { signal: order.signal, niceness: order.niceness })
}
