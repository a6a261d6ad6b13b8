import { cuesInOrder, isInkCue, screenChanges, startedClips, takesOff } from '@core/session'
import type { Cue, Ms, PathPoint, PlayedClip, Point, SlideId, Snapshot, Stretch, Stroke } from '@core/model'
import { strokeLength } from './ink-afterwards'
import { lastNotAfter } from './search'

/** A stroke in a stretch's time: it grows from `from` to `whole` and lies there until it is gone. */
export interface LyingStroke {
  readonly stroke: Stroke
  readonly from: Ms
  readonly whole: Ms
  readonly until: Ms
}

/** A stroke as it is to be drawn now: `elapsed` ms of it, or all when null. */
export interface DrawnStroke {
  readonly stroke: Stroke
  readonly elapsed: Ms | null
}

/** A stroke as it is at a time. */
export const drawnStroke = ({ stroke, from, whole }: LyingStroke, at: Ms): DrawnStroke => ({
  stroke,
  elapsed: at >= whole ? null : at - from,
})

/** What is shown, since when, and what was shown before that; null when it was there from the first. */
export interface Shown {
  readonly slide: SlideId
  readonly step: number
  readonly since: Ms
  readonly before: { readonly slide: SlideId; readonly step: number } | null
  /**
   * Since when what is drawn on the slide moves with the step; -Infinity: it moves no more. It does as the presenter comes to the step from
   * the one before it, or to the first from another slide.
   */
  readonly moves: Ms
}

/** What a stretch shows, prepared for asking at any time. */
export interface Track {
  shownAt: (at: Ms) => Shown
  blankAt: (at: Ms) => boolean
  insetAt: (at: Ms) => boolean
  /** Clips of the slide that were started by then. */
  clipsAt: (at: Ms) => readonly PlayedClip[]
  /** Times, ascending, at which a clip is started or halted, or those of another slide end with it. */
  readonly clipTurns: readonly Ms[]
  /** Where the pointer's spot is; null while there is none, and from the moment on at which its path ends. */
  spotAt: (at: Ms) => Point | null
  /** When each spot appears and when it is gone, ascending. */
  readonly spots: readonly { readonly from: Ms; readonly to: Ms }[]
  /** Strokes on a slide that have begun and are not gone, in the order they were begun. The same list as long as nothing of it changes. */
  drawnAt: (slide: SlideId, at: Ms) => readonly DrawnStroke[]
  /** Times, ascending, at which something other than growing ink or the camera changes. */
  readonly turns: readonly Ms[]
  /** Times, ascending, at which a slide or step is shown. */
  readonly shows: readonly Ms[]
  /** All ink that lies on a slide at some time, in the order it was begun; what lay there from the first comes before it. */
  lying: (slide: SlideId) => readonly LyingStroke[]
  /** Spans during which ink grows on a slide, in order of their beginning. */
  growing: (slide: SlideId) => readonly LyingStroke[]
}

interface Switch<Value> {
  readonly times: readonly Ms[]
  readonly values: readonly Value[]
}

function switches<Value>(opening: Value, events: readonly { readonly at: Ms; readonly value: Value }[]): Switch<Value> {
  const times = [-Infinity]
  const values = [opening]
  for (const event of events) {
    times.push(event.at)
    values.push(event.value)
  }
  return { times, values }
}

/** Cues that change nothing to be seen at one moment: ink and the spot move, muting and stumbles are not seen. */
const SILENT: ReadonlySet<Cue['kind']> = new Set(['ink', 'point', 'mute', 'stumble'])

const valueAt = <Value>(line: Switch<Value>, at: Ms): Value => line.values[lastNotAfter(line.times, at)] as Value

/** When each stroke of a stretch came and when it went, by slide. @param cues in order */
function layInk(opening: readonly Stroke[], cues: readonly Cue[]): ReadonlyMap<SlideId, readonly LyingStroke[]> {
  const all = opening.map((stroke): LyingStroke => ({ stroke, from: -Infinity, whole: -Infinity, until: Infinity }))
  for (const cue of cues.filter(isInkCue)) {
    if (cue.kind === 'ink') {
      all.push({ stroke: cue.stroke, from: cue.at, whole: cue.at + strokeLength(cue.stroke), until: Infinity })
      continue
    }
    for (const [n, lying] of all.entries())
      if (lying.until === Infinity && takesOff(cue, lying.stroke)) all[n] = { ...lying, until: cue.at }
  }
  const bySlide = new Map<SlideId, LyingStroke[]>()
  for (const lying of all) {
    const there = bySlide.get(lying.stroke.slide)
    if (there === undefined) bySlide.set(lying.stroke.slide, [lying])
    else there.push(lying)
  }
  return bySlide
}

const NO_INK: readonly DrawnStroke[] = []

/** What lies on a slide between two changes. */
interface Interval {
  /** All of it, as if it were whole. */
  readonly drawn: readonly DrawnStroke[]
  /** What is not whole from the first, by its place among all. */
  readonly growing: readonly { readonly stroke: LyingStroke; readonly place: number }[]
  /** From when on all of it is whole. */
  readonly settled: Ms
}

/** Answers for the ink of one slide; remembers what lies there between two changes, since neighbouring frames mostly share it. */
function inkOf(list: readonly LyingStroke[]): (at: Ms) => readonly DrawnStroke[] {
  const changes = [...new Set(list.flatMap((lying) => [lying.from, lying.until]))].sort((a, b) => a - b)
  const strokes = list.map((lying) => ({ lying, whole: { stroke: lying.stroke, elapsed: null } }))
  const known = new Map<number, Interval>()
  const intervalAt = (interval: number, at: Ms): Interval => {
    const there = strokes.filter(({ lying }) => lying.from <= at && at < lying.until)
    const since = changes[interval] ?? -Infinity
    return {
      drawn: there.map(({ whole }) => whole),
      growing: there.flatMap(({ lying }, place) => (lying.whole > since ? [{ stroke: lying, place }] : [])),
      settled: there.reduce((last, { lying }) => Math.max(last, lying.whole), -Infinity),
    }
  }
  return (at) => {
    const interval = lastNotAfter(changes, at)
    const found = known.get(interval) ?? intervalAt(interval, at)
    known.set(interval, found)
    if (at >= found.settled) return found.drawn
    const drawn = [...found.drawn]
    for (const { stroke, place } of found.growing) if (at < stroke.whole) drawn[place] = drawnStroke(stroke, at)
    return drawn
  }
}

type ShownStep = Pick<Shown, 'slide' | 'step'>

/** Since when something moves with a step that was shown at a time; before it null: with which the stretch opened. */
export function movesSince(opening: Snapshot, since: Ms, { slide, step }: ShownStep, before: ShownStep | null): Ms {
  if (before === null) return opening.moved === undefined ? -Infinity : -opening.moved
  const comes = before.slide === slide ? before.step === step - 1 : step === 0
  return comes ? since : -Infinity
}

interface Spot {
  readonly from: Ms
  readonly to: Ms
  readonly path: readonly PathPoint[]
}

/** Where a spot is on its way: between the points it passed, in proportion to the time. */
function along({ from, path }: Spot, at: Ms): Point | null {
  const index = lastNotAfter(
    path.map((point) => from + point.dt),
    at,
  )
  const here = path[Math.max(0, index)]
  if (here === undefined) return null
  const next = path[index + 1]
  if (next === undefined || index < 0) return { x: here.x, y: here.y }
  const share = next.dt === here.dt ? 0 : (at - from - here.dt) / (next.dt - here.dt)
  return { x: here.x + (next.x - here.x) * share, y: here.y + (next.y - here.y) * share }
}

/** Prepares a stretch: cues sorted and split by what they switch. Costs one pass over the cues. */
export function trackOf(stretch: Stretch): Track {
  const shows: { at: Ms; value: { slide: SlideId; step: number } }[] = []
  const blanks: { at: Ms; value: boolean }[] = []
  const insets: { at: Ms; value: boolean }[] = []
  const spots: Spot[] = []
  const clips: { at: Ms; value: readonly PlayedClip[] }[] = []
  const cues = cuesInOrder(stretch.cues)
  for (const { cue, before, after } of screenChanges({ opening: stretch.opening, cues }, (one) => !isInkCue(one))) {
    if (cue.kind === 'show') shows.push({ at: cue.at, value: { slide: after.slide, step: after.step } })
    if (before.clips !== after.clips) clips.push({ at: cue.at, value: startedClips(after) })
    if (cue.kind === 'blank') blanks.push({ at: cue.at, value: after.blank })
    if (cue.kind === 'inset') insets.push({ at: cue.at, value: after.inset })
    if (cue.kind === 'point') spots.push({ from: cue.at, to: cue.at + (cue.path.at(-1)?.dt ?? 0), path: cue.path })
  }
  const showLine = switches({ slide: stretch.opening.slide, step: stretch.opening.step }, shows)
  const blankLine = switches(stretch.opening.blank, blanks)
  const insetLine = switches(stretch.opening.inset, insets)
  const clipLine = switches(startedClips(stretch.opening), clips)
  const turns = cues.filter(({ kind }) => !SILENT.has(kind)).map(({ at }) => at)
  const strokes = layInk(stretch.opening.ink, cues)
  const spotStarts = spots.map((spot) => spot.from)
  const ink = new Map([...strokes].map(([slide, list]) => [slide, inkOf(list)]))
  return {
    shownAt: (at) => {
      const index = lastNotAfter(showLine.times, at)
      const [shown, since] = [valueAt(showLine, at), showLine.times[index] ?? -Infinity]
      const before = showLine.values[index - 1] ?? null
      return { ...shown, since, before, moves: movesSince(stretch.opening, since, shown, before) }
    },
    blankAt: (at) => valueAt(blankLine, at),
    insetAt: (at) => valueAt(insetLine, at),
    clipsAt: (at) => valueAt(clipLine, at),
    clipTurns: clips.map(({ at }) => at),
    drawnAt: (slide, at) => ink.get(slide)?.(at) ?? NO_INK,
    spotAt: (at) => {
      const spot = spots[lastNotAfter(spotStarts, at)]
      return spot === undefined || at >= spot.to ? null : along(spot, at)
    },
    spots,
    turns,
    shows: shows.map((show) => show.at),
    lying: (slide) => strokes.get(slide) ?? [],
    growing: (slide) => (strokes.get(slide) ?? []).filter((lying) => lying.from > -Infinity),
  }
}
