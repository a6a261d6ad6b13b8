import { bitsOfSegment, costOfSegment } from './estimate'
import type { Probe } from './estimate'
import { GOP_FRAMES, timeOfFrame } from './frame-grid'
import type { Recipe } from '@core/model'
import type { RenderPlan } from './render-plan'
import type { Segment, SegmentKind } from './segment'

/** Segments of each kind that are made on trial. */
const OF_EACH: Readonly<Record<SegmentKind, number>> = { still: 6, moving: 6, drawn: 2 }

/** How much longer samples take than as much of a film: they are short, and let everybody else go first. Measured. */
const SLOWER = 1.2

/** So many of some things, as evenly spread as can be. */
const spread = <Item>(items: readonly Item[], count: number): readonly Item[] =>
  items.length <= count ? items : Array.from({ length: count }, (_, n) => items[Math.floor(((n + 0.5) * items.length) / count)] as Item)

/**
 * The parts of a film by which it is found out what its pictures take: some of each kind, from all over it, cut to a group of frames.
 * @returns in the film's order
 */
export function probeSamples(plan: RenderPlan): readonly Segment[] {
  const of = (kind: SegmentKind): readonly Segment[] =>
    spread(
      plan.segments.filter((segment) => segment.kind === kind),
      OF_EACH[kind],
    )
  return [...of('still'), ...of('moving'), ...of('drawn')]
    .sort((a, b) => a.firstFrame - b.firstFrame)
    .map((segment): Segment => {
      if (segment.drawn <= GOP_FRAMES) return segment
      return {
        ...segment,
        to: segment.from + timeOfFrame(GOP_FRAMES, plan.fps),
        frames: Math.min(segment.frames, GOP_FRAMES),
        drawn: GOP_FRAMES,
      }
    })
}

/**
 * What plans have in common whose pictures are alike and made alike, as a name to keep probes by. A recipe that was kept has its parts
 * in another order: they are named one by one.
 */
export const probeSetting = (
  { size, frame, fps, format, quality, bits }: RenderPlan,
  { without, timing }: Pick<Recipe, 'without' | 'timing'>,
): string =>
  JSON.stringify([
    size.width,
    size.height,
    frame.width,
    frame.height,
    fps,
    format,
    quality,
    bits.kind,
    bits.kind === 'free' ? null : bits.most,
    without.face,
    without.ink,
    timing,
  ])

/**
 * What samples took against what was reckoned for them.
 * @param made of each sample, in their order: bytes of its pictures, and ms that a lane was at it, 0 when it was there
 * @param lanes that were made at a time
 */
export function probeOf(
  plan: RenderPlan,
  samples: readonly Segment[],
  made: readonly { readonly bytes: number; readonly took: number }[],
  lanes: number,
): Probe {
  const total = (of: (segment: Segment, n: number) => number): number => samples.reduce((sum, segment, n) => sum + of(segment, n), 0)
  const bits = [...new Set(samples.map(({ kind }) => kind))].map((kind) => {
    const ofKind = (of: (segment: Segment, n: number) => number): number =>
      total((segment, n) => (segment.kind === kind ? of(segment, n) : 0))
    return [
      kind,
      ofKind((_, n) => (made[n]?.bytes ?? 0) * 8) /
        Math.max(
          1,
          ofKind((segment) => bitsOfSegment(segment, plan)),
        ),
    ] as const
  })
  const reckoned = total((segment, n) => ((made[n]?.took ?? 0) > 0 ? costOfSegment(segment, plan) : 0))
  return { bits: Object.fromEntries(bits), time: reckoned === 0 ? null : total((_, n) => made[n]?.took ?? 0) / lanes / reckoned / SLOWER }
}
