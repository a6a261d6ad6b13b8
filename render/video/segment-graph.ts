import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { coverCrop, insetBox, insetPath } from '@core/paint'
import type { PaintContext } from '@core/paint'
import type { Segment } from '@core/plan'
import type { Framing, Size } from '@core/model'
import { RECORDING } from '@render/process'
import { selectFrames } from './bands'
import type { Band } from './bands'
import { FROM_ITS_ZERO } from './camera-frames'
import type { CameraFile } from './camera-frames'

/** What a segment's pictures consist of. */
export interface GraphOrder {
  readonly segment: Segment
  readonly size: Size
  /** Of the finished picture. */
  readonly frame: Size
  readonly fps: number
  readonly camera: CameraFile | null
  /** Whether small pictures of it are wanted besides. */
  readonly look: boolean
}

/** Colour of bars beside slides that have another shape than the picture. */
const BARS = '0x101A18'
/** Height of the picture shown while a film is being made. */
const LOOK_HEIGHT = 270
/** Two pictures that are put together have the same range of lightness. */
const LIMITED = 'in_range=tv:out_range=tv'
const LOOK = `fps=1/2:start_time=0,scale=-2:${String(LOOK_HEIGHT)}`

/** Size of that picture. Even pixels. */
export const lookSize = ({ width, height }: Size): Size => ({
  width: Math.round((width * LOOK_HEIGHT) / height / 2) * 2,
  height: LOOK_HEIGHT,
})

/** The inset's outline, white on black, as large as its box. */
export function maskOf(framing: Framing, size: Size): Canvas {
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

/** Whether the face is laid over the pages by the encoder's filters; where it moves, it is drawn with them. */
export const isLaidOver = ({ segment, camera }: Pick<GraphOrder, 'segment' | 'camera'>): boolean =>
  segment.inset !== null && camera !== null && segment.kind !== 'drawn'

/** Files and pictures that the graph reads after the pages. @param mask file of `maskOf` */
export function graphInputs({ segment, camera, fps }: Omit<GraphOrder, 'look'>, mask: string): readonly string[] {
  if (segment.inset === null || camera === null || segment.kind === 'drawn') return []
  const { tempo } = segment
  const taken = ((segment.drawn / fps) * (tempo.num / tempo.den)).toFixed(4)
  return [
    '-threads',
    '1',
    ...RECORDING,
    ...FROM_ITS_ZERO,
    '-ss',
    String(Math.max(0, segment.inset.at) / 1000),
    '-t',
    taken,
    '-i',
    camera.path,
    '-protocol_whitelist',
    'file,pipe',
    '-f',
    'png_pipe',
    '-framerate',
    String(fps),
    '-i',
    mask,
  ]
}

/** Puts bars beside what was drawn, or takes its edges off: a filter after another one, or nothing. */
export function framed(size: Size, frame: Size): string {
  if (size.width === frame.width && size.height === frame.height) return ''
  const [x, y] = [Math.abs(frame.width - size.width) / 2, Math.abs(frame.height - size.height) / 2].map((pixels) =>
    String(Math.floor(pixels / 2) * 2),
  )
  const box = `${String(frame.width)}:${String(frame.height)}:${x ?? '0'}:${y ?? '0'}`
  return size.width >= frame.width && size.height >= frame.height ? `,crop=${box}` : `,pad=${box}:color=${BARS}`
}

/**
 * The face as `[inset]`, in its outline. Every stream ends, the mask's after as many frames as there are: a filter goes on while any of
 * them does.
 */
function face({ segment, camera, size, fps }: GraphOrder): string {
  if (segment.inset === null || camera === null) return ''
  const {
    inset: { framing },
    tempo,
  } = segment
  const box = insetBox(framing, size)
  const crop = coverCrop(camera.size, box, framing)
  const steps = [
    `crop=${String(crop.width)}:${String(crop.height)}:${String(crop.x)}:${String(crop.y)}`,
    // This library changes size and matrix in one go; the other one takes a way over RGB for it and twice as long. Browsers' colour
    // samples lie amid their four pixels, as ours do.
    `zscale=${String(box.width)}:${String(box.height)}` +
      `:filter=bicubic:matrixin=170m:matrix=709:rangein=tv:range=tv:chromalin=center:chromal=center`,
    ...(framing.mirrored ? ['hflip'] : []),
    'format=yuv420p',
    ...(tempo.num === tempo.den ? [] : [`setpts=PTS*${String(tempo.den)}/${String(tempo.num)}`]),
    `fps=${String(fps)}:start_time=0`,
  ]
  return `[1:v]${steps.join(',')}[face];[2:v]format=gray,loop=loop=${String(segment.drawn - 1)}:size=1[mask];[face][mask]alphamerge[inset];`
}

/** Lays `[inset]` over something. @param down rows that are missing above */
function laid(order: GraphOrder, down: number): string {
  if (order.segment.inset === null) return ''
  const box = insetBox(order.segment.inset.framing, order.size)
  return `overlay=${String(box.x)}:${String(box.y - down)}:eof_action=repeat:format=yuv420`
}

/** The graph that makes whole pictures: `[film]`, and `[look]` if wanted. */
export function wholeGraph(order: GraphOrder): string {
  const pages = `[0:v]fps=${String(order.fps)}:start_time=0`
  const end = `${framed(order.size, order.frame)}${order.look ? `,split[film][shown];[shown]${LOOK},format=yuvj420p[look]` : '[film]'}`
  return isLaidOver(order) ? `${face(order)}${pages}[page];[page][inset]${laid(order, 0)}${end}` : `${pages}${end}`
}

/** The graph that makes bands of whole pictures with a face laid over them: `[band0]` and so on, and `[look]` if wanted. */
export function facedBandGraph(order: GraphOrder, bands: readonly Band[]): string {
  const { size, look } = order
  const faced = bands.findIndex(({ frames }) => frames.length === order.segment.drawn)
  const crops = bands.map((band, n) => {
    const cropped = `[page${String(n)}]${rowsOf(band, size)}`
    const name = `[band${String(n)}]`
    if (n !== faced) return `${cropped},${selectFrames(band)}${name}`
    const made = `${cropped}[rows];[rows][inset]${laid(order, band.top)}`
    if (!look) return `${made}${name}`
    // Even rows, since colour is stored for pairs of them; the end of the picture is the end of the band that reaches it.
    const [down, end] = [band.top, band.top + band.height].map((rows) => Math.round((rows * LOOK_HEIGHT) / size.height / 2) * 2)
    return (
      `${made},split${name}[shown];[shown]fps=1/2:start_time=0,scale=${String(lookSize(size).width)}` +
      `:${String((end ?? 0) - (down ?? 0))}:${LIMITED}[small];[pages]${LOOK}:${LIMITED}[under];` +
      `[under][small]overlay=0:${String(down ?? 0)}:format=yuv420,scale=in_range=tv:out_range=pc,format=yuvj420p[look]`
    )
  })
  const pages = [...bands.map((_, n) => `[page${String(n)}]`), ...(look ? ['[pages]'] : [])]
  return `${face(order)}[0:v]fps=${String(order.fps)}:start_time=0,split=${String(pages.length)}${pages.join('')};${crops.join(';')}`
}

const rowsOf = ({ top, height }: Band, size: Size): string => `crop=${String(size.width)}:${String(height)}:0:${String(top)}`

/**
 * The graph that makes bands where ink grows in one, `[part0band0]` and so on: of its rows alone, and of the first whole picture for
 * those that stand still.
 * @param part counted from 0: its whole picture and its rows are the streams 2n and 2n + 1
 */
export function inkedBandGraph({ size, fps }: Pick<GraphOrder, 'size' | 'fps'>, bands: readonly Band[], part: number): string {
  const own = `part${String(part)}`
  const stills = bands.flatMap((band, n) => (band.still ? [{ band, n }] : []))
  const inked = bands.flatMap((band, n) =>
    band.still ? [] : [`[0:${String(2 * part + 1)}]fps=${String(fps)}:start_time=0,${selectFrames(band)}[${own}band${String(n)}]`],
  )
  const page = `[0:${String(2 * part)}]`
  const pages =
    stills.length === 0
      ? [`${page}nullsink`]
      : [`${page}split=${String(stills.length)}${stills.map(({ n }) => `[${own}page${String(n)}]`).join('')}`]
  return [...inked, ...pages, ...stills.map(({ band, n }) => `[${own}page${String(n)}]${rowsOf(band, size)}[${own}band${String(n)}]`)].join(
    ';',
  )
}
