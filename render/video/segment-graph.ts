import { createCanvas } from '@napi-rs/canvas'
import type { Canvas } from '@napi-rs/canvas'
import { coverCrop, insetBox, insetPath } from '@core/paint'
import type { PaintContext } from '@core/paint'
import type { Segment } from '@core/plan'
import type { Framing, Size } from '@core/model'
import { chain, constantRate, crop, filter, format, graphText, lit, split, televisionFrom } from '@render/filters'
import type { Chain, Filter } from '@render/filters'
import { selectFrames } from './bands'
import type { Band } from './bands'
import { FROM_ITS_ZERO, atTempo, cameraKind } from './camera-frames'
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
const LIMITED = { in_range: 'tv', out_range: 'tv' } as const
/** A picture every other second. */
const SLOW = constantRate('1/2')
const LOOK = [SLOW, filter('scale', [-2, LOOK_HEIGHT])] as const

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
    ...cameraKind(camera),
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

/** Puts bars beside what was drawn, or takes its edges off; nothing where it is the picture already. */
export function framed(size: Size, frame: Size): readonly Filter[] {
  if (size.width === frame.width && size.height === frame.height) return []
  const even = (pixels: number): number => Math.floor(pixels / 2) * 2
  const x = even(Math.abs(frame.width - size.width) / 2)
  const y = even(Math.abs(frame.height - size.height) / 2)
  return size.width >= frame.width && size.height >= frame.height
    ? [crop(frame.width, frame.height, x, y)]
    : [filter('pad', [frame.width, frame.height, x, y], { color: BARS })]
}

/**
 * The face as `inset`, in its outline. Every stream ends, the mask's after as many frames as there are: a filter goes on while any of
 * them does.
 */
function face({ segment, camera, size, fps }: GraphOrder): readonly Chain[] {
  if (segment.inset === null || camera === null) return []
  const {
    inset: { framing, light },
    tempo,
  } = segment
  const box = insetBox(framing, size)
  const seen = coverCrop(camera.size, box, framing)
  const steps = [
    crop(seen.width, seen.height, seen.x, seen.y),
    // This library changes size and matrix in one go; the other one takes a way over RGB for it and twice as long. Browsers' colour
    // samples lie amid their four pixels, as ours do.
    filter('zscale', [box.width, box.height], {
      filter: 'bicubic',
      ...televisionFrom(camera.colours),
      chromalin: 'center',
      chromal: 'center',
    }),
    ...(framing.mirrored ? [filter('hflip')] : []),
    format('yuv420p'),
    ...lit(light),
    ...(tempo.num === tempo.den ? [] : [atTempo(tempo)]),
    constantRate(fps),
  ]
  return [
    chain(['1:v'], steps, ['face']),
    chain(['2:v'], [format('gray'), filter('loop', [], { loop: segment.drawn - 1, size: 1 })], ['mask']),
    chain(['face', 'mask'], [filter('alphamerge')], ['inset']),
  ]
}

/** Lays `inset` over something. @param down rows that are missing above */
function laid({ segment: { inset }, size }: GraphOrder, down: number): readonly Filter[] {
  if (inset === null) return []
  const box = insetBox(inset.framing, size)
  return [filter('overlay', [box.x, box.y - down], { eof_action: 'repeat', format: 'yuv420' })]
}

/** The graph that makes whole pictures: `film`, and `look` if wanted. */
export function wholeGraph(order: GraphOrder): string {
  const ends = framed(order.size, order.frame)
  const last = order.look ? [...ends, split(2)] : ends
  const out = order.look ? ['film', 'shown'] : ['film']
  const pages = constantRate(order.fps)
  const pictures = isLaidOver(order)
    ? [...face(order), chain(['0:v'], [pages], ['page']), chain(['page', 'inset'], [...laid(order, 0), ...last], out)]
    : [chain(['0:v'], [pages, ...last], out)]
  return graphText([...pictures, ...(order.look ? [chain(['shown'], [...LOOK, format('yuvj420p')], ['look'])] : [])])
}

/** The small picture of a band that the face moves in, over what stands still around it. */
function lookOfBand({ top, height }: Band, size: Size): readonly Chain[] {
  // Even rows, since colour is stored for pairs of them; the end of the picture is the end of the band that reaches it.
  const small = (rows: number): number => Math.round((rows * LOOK_HEIGHT) / size.height / 2) * 2
  const [down, end] = [small(top), small(top + height)]
  return [
    chain(['shown'], [SLOW, filter('scale', [lookSize(size).width, end - down], LIMITED)], ['small']),
    chain(['pages'], [SLOW, filter('scale', [-2, LOOK_HEIGHT], LIMITED)], ['under']),
    chain(
      ['under', 'small'],
      [filter('overlay', [0, down], { format: 'yuv420' }), filter('scale', [], { in_range: 'tv', out_range: 'pc' }), format('yuvj420p')],
      ['look'],
    ),
  ]
}

/** The graph that makes bands of whole pictures with a face laid over them: `band0` and so on, and `look` if wanted. */
export function facedBandGraph(order: GraphOrder, bands: readonly Band[]): string {
  const { size, look } = order
  const faced = bands.findIndex(({ frames }) => frames.length === order.segment.drawn)
  const crops = bands.flatMap((band, n): readonly Chain[] => {
    const [page, name] = [`page${String(n)}`, `band${String(n)}`]
    if (n !== faced) return [chain([page], [rowsOf(band, size), selectFrames(band)], [name])]
    const over = laid(order, band.top)
    const rows = chain([page], [rowsOf(band, size)], ['rows'])
    if (!look) return [rows, chain(['rows', 'inset'], over, [name])]
    return [rows, chain(['rows', 'inset'], [...over, split(2)], [name, 'shown']), ...lookOfBand(band, size)]
  })
  const pages = [...bands.map((_, n) => `page${String(n)}`), ...(look ? ['pages'] : [])]
  return graphText([...face(order), chain(['0:v'], [constantRate(order.fps), split(pages.length)], pages), ...crops])
}

const rowsOf = ({ top, height }: Band, size: Size): Filter => crop(size.width, height, 0, top)

/**
 * The chains that make bands where ink grows in one, `part0band0` and so on: of its rows alone, and of the first whole picture for those
 * that stand still.
 * @param part counted from 0: its whole picture and its rows are the streams 2n and 2n + 1
 */
export function inkedBandChains({ size, fps }: Pick<GraphOrder, 'size' | 'fps'>, bands: readonly Band[], part: number): readonly Chain[] {
  const named = (kind: string, n: number): string => `part${String(part)}${kind}${String(n)}`
  const stills = bands.flatMap((band, n) => (band.still ? [{ band, n }] : []))
  const inked = bands.flatMap((band, n) =>
    band.still ? [] : [chain([`0:${String(2 * part + 1)}`], [constantRate(fps), selectFrames(band)], [named('band', n)])],
  )
  const page = `0:${String(2 * part)}`
  const pages =
    stills.length === 0
      ? chain([page], [filter('nullsink')], [])
      : chain(
          [page],
          [split(stills.length)],
          stills.map(({ n }) => named('page', n)),
        )
  return [...inked, pages, ...stills.map(({ band, n }) => chain([named('page', n)], [rowsOf(band, size)], [named('band', n)]))]
}
