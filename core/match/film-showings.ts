import type { Ms } from '@core/model'
import { ANALYSIS_IMAGE, IMAGE_BYTES, distanceOf, distancesOf, timeOfImage } from './analysis-images'

/** A part of a film in which one thing is shown. */
export interface FilmShowing {
  readonly from: Ms
  readonly until: Ms
  /** Which of the references; null: none of them. */
  readonly shows: number | null
}

/** A change costs as much as so many levels of a colour in one image: what lasts for less is no change. */
const CHANGE = 1.5
/** Further from a reference than this an image is of something else, in levels of a colour. */
const OTHER_COST = 9
/** Images that something is shown at least; less belongs to what was before it. */
const SHORTEST = 4
/** So many images something else is shown at least; less is a change from one slide to another that comes over in a while. */
const SHORTEST_OTHER = ANALYSIS_IMAGE.fps
/** How far back a change may have begun that comes over in a while, in images. */
const LONGEST_CHANGE = Math.round(1.2 * ANALYSIS_IMAGE.fps)
/** How much of a change may be there before it is one. */
const BEGUN = 0.06
/** Colours of two references that are further apart than this tell them apart. */
const TELLING = 20

interface Run {
  readonly from: number
  readonly to: number
  readonly shows: number
}

const cheapest = (costs: Float64Array): number => costs.reduce((lowest, cost, n) => (cost < at(costs, lowest) ? n : lowest), 0)
const at = (costs: Float64Array, n: number): number => costs[n] ?? Infinity

/** Costs of all ways to an image, and where the cheapest to each of its things comes from. */
function furtherOn(total: Float64Array, row: Float64Array): { readonly total: Float64Array; readonly came: Int32Array } {
  const best = cheapest(total)
  const change = at(total, best) + CHANGE
  const came = Int32Array.from(row, (_, n) => (at(total, n) <= change ? n : best))
  return { came, total: Float64Array.from(row, (cost, n) => Math.min(at(total, n), change) + cost) }
}

/** Which of several things each image shows: the cheapest way through all of them (Viterbi, 1967). @param costs a row for each image */
function cheapestWay(costs: readonly Float64Array[]): readonly number[] {
  const [first] = costs
  if (first === undefined) return []
  let total = first
  const from: Int32Array[] = []
  for (const row of costs.slice(1)) {
    const next = furtherOn(total, row)
    from.push(next.came)
    ;({ total } = next)
  }
  let place = cheapest(total)
  const way = [place]
  for (const came of from.reverse()) {
    place = came[place] ?? 0
    way.push(place)
  }
  return way.reverse()
}

/** Parts in which one thing is shown. @param other stands for what is none of the references */
function runsOf(way: readonly number[], other: number): readonly Run[] {
  const runs: { from: number; to: number; shows: number }[] = []
  for (const [n, shows] of way.entries()) {
    const last = runs.at(-1)
    if (last?.shows === shows) last.to = n + 1
    else runs.push({ from: n, to: n + 1, shows })
  }
  const kept: { from: number; to: number; shows: number }[] = []
  for (const [n, run] of runs.entries()) {
    const [last, next] = [kept.at(-1), runs[n + 1]]
    const isChange = run.shows === other && run.to - run.from < SHORTEST_OTHER && next !== undefined && last !== undefined
    if (isChange) next.from = run.from
    else if (last !== undefined && (run.to - run.from < SHORTEST || last.shows === run.shows)) last.to = run.to
    else kept.push({ ...run })
  }
  return kept
}

/** How far an image has gone from one reference to another: 0 at the first, 1 at the second. */
function progressOf(image: Uint8Array, a: Uint8Array, b: Uint8Array): number {
  let [done, all] = [0, 0]
  for (let n = 0; n < IMAGE_BYTES; n += 1) {
    const way = (b[n] ?? 0) - (a[n] ?? 0)
    if (Math.abs(way) < TELLING) continue
    done += ((image[n] ?? 0) - (a[n] ?? 0)) * way
    all += way * way
  }
  return all === 0 ? 0 : done / all
}

/** The image with which a change begins that is half done at another: what comes over in a while began before that. */
function beginningOf(images: readonly Uint8Array[], before: Run, run: Run, references: readonly Uint8Array[]): number {
  const earliest = Math.max(before.from, run.from - LONGEST_CHANGE)
  const steady = images[earliest]
  const [a, b] = [references[before.shows], references[run.shows]]
  if (steady === undefined || a === undefined || b === undefined) return run.from
  // A face that stands over both moves neither.
  const base = progressOf(steady, a, b)
  let at = run.from
  while (at - 1 > earliest && progressOf(images[at - 1] ?? steady, a, b) - base > BEGUN) at -= 1
  return at
}

const showingsOf = (runs: readonly Run[], begins: readonly number[], count: number): readonly FilmShowing[] =>
  runs.map((run, n) => ({
    // A change lies between two images.
    from: n === 0 ? 0 : timeOfImage((begins[n] ?? run.from) - 0.5),
    until: timeOfImage(n + 1 < runs.length ? (begins[n + 1] ?? run.to) - 0.5 : count),
    shows: run.shows,
  }))

/**
 * Which of some slides a film shows when, whatever else is in its picture: a face in a corner, ink, a pointer.
 * @param images of the film, as `ANALYSIS_IMAGE` says
 * @param references what slides look like, in the same size
 */
export function filmShowings(images: readonly Uint8Array[], references: readonly Uint8Array[]): readonly FilmShowing[] {
  if (images.length === 0) return []
  const distances = distancesOf(images, references)
  const costs = distances.map((row) => Float64Array.from([...row, OTHER_COST]))
  const runs = runsOf(cheapestWay(costs), references.length)
  const begins = runs.map((run, n) => {
    const before = runs[n - 1]
    return before === undefined ? run.from : beginningOf(images, before, run, references)
  })
  return showingsOf(runs, begins, images.length).map((one) => (one.shows === references.length ? { ...one, shows: null } : one))
}

/** Further apart than this two images are not of the same slide, in levels of a colour. */
const ANOTHER = 3
/** So many images in a row are of something else before it is taken for another slide. */
const LASTS = 4
/** So many images after a change what comes is there. */
const SETTLES = 8
/** Images so far apart in time are compared to see whether something moves, and so far apart in levels of a colour they show that. */
const MOVES_IN = 3
const MOVES = 1.5
/** More than this share of a part that moves is none of slides. */
const MOST_MOVING = 0.4

/** How much of a part of a film moves, 0 to 1. */
function movingIn(images: readonly Uint8Array[], from: number, to: number): number {
  let moving = 0
  for (let n = from + MOVES_IN; n < to; n += 1) {
    const [image, before] = [images[n], images[n - MOVES_IN]]
    if (image !== undefined && before !== undefined && distanceOf(image, before) > MOVES) moving += 1
  }
  return moving / Math.max(1, to - from)
}

/**
 * Slides that are found in a part of a film of which nothing is known.
 * @returns the number of an image for each slide; null: something moves all the time, and there are no slides to be told
 */
export function stillsIn(images: readonly Uint8Array[], from: number, to: number): readonly number[] | null {
  if (movingIn(images, from, to) > MOST_MOVING) return null
  const stills: number[] = []
  let current = Math.min(from + SETTLES, to - 1)
  let away = 0
  const add = (at: number): void => {
    const image = images[at]
    if (image !== undefined && !stills.some((still) => distanceOf(images[still] ?? image, image) <= ANOTHER)) stills.push(at)
  }
  add(current)
  for (let at = current + 1; at < to; at += 1) {
    const [image, held] = [images[at], images[current]]
    if (image === undefined || held === undefined) break
    away = distanceOf(image, held) > ANOTHER ? away + 1 : 0
    if (away < LASTS) continue
    current = Math.min(at - LASTS + 1 + SETTLES, to - 1)
    at = Math.max(at, current)
    away = 0
    add(current)
  }
  return stills
}
