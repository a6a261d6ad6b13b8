import type { PixelBox } from '@core/model'
import { readFile, rm, writeFile } from 'node:fs/promises'
import { insetBox } from '@core/paint'
import { bandArgs, bandsOf, woven } from './bands'
import type { Band, Change } from './bands'
import { checkBands, checkStream } from './check-stream'
import type { Woven } from './check-stream'
import { encodeInked, encodePictures } from './encode-pictures'
import { encoderArgs } from './encoder'
import type { FilmPainter } from './film-painter'
import { nullIfUnsupported } from './h264-units'
import { headersAlike } from './headers-alike'
import { changesIn } from './painted-pictures'
import type { Painting } from './painted-pictures'
import { facedBandGraph, graphInputs, isLaidOver, maskOf, wholeGraph } from './segment-graph'
import { framesOfStream } from './segment-order'
import type { SegmentOrder } from './segment-order'

/** How a segment was made: as bands, as whole pictures, or as these because a band had looked beyond itself. */
export type EncodePath = 'bands' | 'whole' | 'whole after bands'

/** What of the picture changes within a segment, as bands; null when it is to be made whole. */
function bandsFor(
  { segment, runs, size, frame, coding, camera }: SegmentOrder,
  boxes: readonly (PixelBox | null)[],
): readonly Band[] | null {
  const fits =
    segment.kind === 'moving' &&
    coding.format === 'mp4' &&
    coding.most === null &&
    size.width === frame.width &&
    size.height === frame.height
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

/** Where a segment's mask and its bands are put while it is made. */
const maskFile = ({ out }: SegmentOrder): string => `${out}.mask.png`
const bandFile = ({ out }: SegmentOrder, n: number): string => `${out}.${String(n)}`

/** A segment and how it is about to be made. */
interface Work {
  readonly order: SegmentOrder
  readonly painting: Painting
  readonly bands: readonly Band[] | null
}

/**
 * Makes segments: their pictures are drawn here, one segment after the other, and the camera laid over them by the encoder's own filters.
 * @param orders all with the same size, rate and coding
 * @returns how each was made
 * @throws ProcessFailed when the encoder fails, Error when what it made is not what was asked
 */
export async function makeSegments(orders: readonly SegmentOrder[], painter: FilmPainter): Promise<readonly EncodePath[]> {
  const works = orders.map((order): Work => {
    const boxes = changesIn(order)
    return { order, painting: { painter, boxes }, bands: bandsFor(order, boxes) }
  })
  try {
    for (const { order } of works)
      if (isLaidOver(order) && order.segment.inset !== null)
        await writeFile(maskFile(order), await maskOf(order.segment.inset.framing, order.size).encode('png'))
    const woven = await makeBands(works)
    const good = woven.size === 0 ? [] : await checkBands([...woven.values()], orders[0] ?? { niceness: 0 })
    const asBands = new Set([...woven.keys()].filter((_, n) => good[n]))
    for (const work of works) if (!asBands.has(work)) await makeWhole(work)
    const wholePath = (work: Work): EncodePath => (work.bands === null ? 'whole' : 'whole after bands')
    return works.map((work) => (asBands.has(work) ? 'bands' : wholePath(work)))
  } finally {
    await painter.rest()
    await Promise.all(
      works.flatMap(({ order, bands }) =>
        [maskFile(order), ...(bands ?? []).map((_, n) => bandFile(order, n))].map((path) => rm(path, { force: true })),
      ),
    )
  }
}

async function makeWhole({ order, painting }: Work): Promise<void> {
  const { segment, coding, fps, out } = order
  const frames = framesOfStream(segment)
  const look = order.onLook !== null
  await encodePictures(order, painting, {
    graph: wholeGraph({ ...order, look }),
    inputs: graphInputs(order, maskFile(order)),
    look,
    frames,
    outputs: [{ name: 'film', frames, out, args: encoderArgs(coding, fps, 1) }],
  })
  await checkStream(order, frames)
}

/** Makes those that consist of bands. @returns what is to be checked, but for those whose streams cannot be put together */
async function makeBands(works: readonly Work[]): Promise<ReadonlyMap<Work, Woven>> {
  const banded = works.flatMap((work) => {
    const { order, painting, bands } = work
    const outputs = bands?.map((band, n) => ({
      band,
      name: `band${String(n)}`,
      frames: band.frames.length,
      out: bandFile(order, n),
      args: bandArgs(band, order.coding, order.fps),
    }))
    return bands === null || outputs === undefined ? [] : [{ work, order, painting, bands, outputs }]
  })
  for (const { order, painting, bands, outputs } of banded.filter(({ order }) => isLaidOver(order))) {
    const look = order.onLook !== null
    // Progress is told of the first: the one with most frames.
    await encodePictures(order, painting, {
      frames: order.segment.drawn,
      outputs: outputs.toSorted((a, b) => b.frames - a.frames),
      graph: facedBandGraph({ ...order, look }, bands),
      inputs: graphInputs(order, maskFile(order)),
      look,
    })
  }
  // Without a face it is one band in which something changes, that of the ink.
  const [first, ...others] = banded.filter(({ order }) => !isLaidOver(order))
  if (first !== undefined) await encodeInked([first, ...others])
  const made = new Map<Work, Woven>()
  for (const {
    work,
    order: { segment, size, fps, coding, out },
    outputs,
  } of banded) {
    const streams = await Promise.all(outputs.map(async ({ band, out }) => ({ band, stream: await readFile(out) })))
    const whole = await nullIfUnsupported(async () => woven(streams, await headersAlike(size, fps, coding), segment.drawn))
    if (whole === null) continue
    await writeFile(out, whole)
    made.set(work, { out, coding, size, bands: outputs, frames: segment.drawn })
  }
  return made
}
