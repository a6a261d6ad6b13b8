import type { Cue, InkPoint, PathPoint, Snapshot, Stroke } from '@core/model'
import { LONGEST_LABEL } from '@core/model'

/** How far beyond the slide's edges ink is kept, in fractions of the slide: what is drawn there is not seen, but bends what is. */
export const INK_REACH = { least: -0.5, most: 1.5 } as const
/** Most points of a stroke that are taken in, and of a spot's path. */
export const MOST_POINTS = 20_000
export const MOST_PATH_POINTS = 2000
/** A stroke that is being drawn goes on as another one after so many points. */
export const PART_POINTS = 4000
/** Most strokes that can lie on the slides when a stretch opens. */
export const MOST_OPENING_STROKES = 5000
/** And most points of all of them together: they travel in one request. */
const MOST_OPENING_POINTS = 80_000
/** Two points are told apart when so much time lies between them, in ms, or so much of the slide. */
const WORTH_MS = 4
const WORTH_WAY = 0.002
/** Longest time that anything recorded has, in ms: a day. */
const LONGEST = 86_400_000

const within = (value: number, least: number, most: number): number =>
  Number.isFinite(value) ? Math.max(least, Math.min(most, value)) : least

/** A place as it is kept: to a hundred-thousandth of the slide, and not farther off it than `INK_REACH`. */
export const inkPlace = (value: number): number => Math.round(within(value, INK_REACH.least, INK_REACH.most) * 100_000) / 100_000

/** Points with those that are added, without what a fast device says more than once. @param drawn at least one, in time order */
export function withPoints(drawn: readonly InkPoint[], added: readonly InkPoint[]): readonly InkPoint[] {
  const points = [...drawn]
  for (const point of added) {
    const last = points.at(-1)
    const near = last !== undefined && point.dt - last.dt < WORTH_MS && Math.hypot(point.x - last.x, point.y - last.y) < WORTH_WAY
    if (!near) points.push(last !== undefined && point.dt < last.dt ? { ...point, dt: last.dt } : point)
  }
  return points
}

/** As many of a list as are allowed, evenly spread, the first and the last among them. */
function thinned<Item>(items: readonly Item[], most: number): readonly Item[] {
  if (items.length <= most) return items
  return Array.from({ length: most }, (_, n) => items[Math.round((n * (items.length - 1)) / (most - 1))] as Item)
}

const mendedTime = (dt: number): number => Math.round(within(dt, 0, LONGEST))
const mendedPlace = <Point extends PathPoint>(point: Point): Point => ({
  ...point,
  dt: mendedTime(point.dt),
  x: inkPlace(point.x),
  y: inkPlace(point.y),
})

/** A stroke as it can be taken in: what is off the slide is brought to its reach, and of too many points as many are kept as can be. */
export function mendedStroke(stroke: Stroke): Stroke {
  const points = thinned(stroke.points, MOST_POINTS).map((point): InkPoint => ({ ...mendedPlace(point), p: within(point.p, 0, 1) }))
  return {
    ...stroke,
    points,
    ...(stroke.text === undefined ? {} : { text: [...stroke.text].slice(0, LONGEST_LABEL).join('').slice(0, LONGEST_LABEL) }),
  }
}

/** An event as it can be taken in; see `mendedStroke`. */
export function mendedCue(cue: Cue): Cue {
  const at = mendedTime(cue.at)
  switch (cue.kind) {
    case 'ink':
      return { ...cue, at, stroke: mendedStroke(cue.stroke) }
    case 'point':
      return { ...cue, at, path: thinned(cue.path, MOST_PATH_POINTS).map(mendedPlace) }
    default:
      return { ...cue, at }
  }
}

/**
 * What is on screen when a stretch opens, as it can be taken in; of too many strokes those that were drawn last, and all with fewer
 * points.
 */
export function mendedSnapshot(snapshot: Snapshot): Snapshot {
  const ink = snapshot.ink.slice(-MOST_OPENING_STROKES).map(mendedStroke)
  const points = ink.reduce((sum, stroke) => sum + stroke.points.length, 0)
  if (points <= MOST_OPENING_POINTS) return { ...snapshot, ink }
  const share = MOST_OPENING_POINTS / points
  return {
    ...snapshot,
    ink: ink.map((stroke) => ({ ...stroke, points: thinned(stroke.points, Math.max(2, Math.floor(stroke.points.length * share))) })),
  }
}
