import { WHOLE, contentOfSteps, coverageOf, faceRect, mergeContent, summed } from '@core/layout'
import type { SummedGrid } from '@core/layout'
import { layPlate, unitsOf } from '@core/compose'
import { fittedInto, rectsOverlap, unreachable } from '@core/model'
import type { Film, LowerThirdOverlay, Ms, Overlay, Point, Rect, Size, TextOverlay } from '@core/model'
import { placedOverlays, programmeLength, visitsOf } from '@core/programme'
import type { Placed, Visit } from '@core/programme'
import { eased } from './change'
import { faceInVisit } from './face-in-visit'

/** How long an overlay takes to come, and to go. */
export const COMES: Ms = 400

/** An overlay of a film: when it is there, and where. */
export interface FilmOverlay {
  readonly overlay: Overlay
  readonly from: Ms
  readonly to: Ms
  /** In fractions of the frame. */
  readonly box: Rect
  /** Whether it is there at once: what a film begins with does not come, and what it ends with does not go. */
  readonly begins: boolean
  readonly ends: boolean
}

/** An overlay at some moment. */
export interface OverlayScene {
  readonly overlay: Overlay
  readonly box: Rect
  /** How far it has come, 0 to 1. */
  readonly there: number
}

/** Distance from the frame's edges, as a fraction of its shorter side. */
const MARGIN = 0.05

/** What is seen in a visit that a plate is not to hide. */
interface Seen {
  readonly content: SummedGrid
  readonly face: Rect | null
}

function seenIn(film: Film, visit: Visit): Seen | null {
  const slide = film.slides.get(visit.slide)
  if (slide === undefined) return null
  const framing = faceInVisit(film, visit, slide)
  return {
    content: summed(mergeContent(contentOfSteps(slide, film.shape))),
    // One that fills the frame leaves no room: words stand on it.
    face: framing === null || framing.placing === 'full' ? null : faceRect(framing),
  }
}

/** Where a plate may stand: in the corners, the lower ones first, and in the middle of either edge. */
function cornersFor({ w, h }: Pick<Rect, 'w' | 'h'>, shape: Size): readonly Point[] {
  const short = Math.min(shape.width, shape.height)
  const [across, down] = [(MARGIN * short) / shape.width, (MARGIN * short) / shape.height]
  const columns = [across, 1 - across - w, (1 - w) / 2]
  return [1 - down - h, down].flatMap((y) => columns.map((x) => ({ x: Math.max(0, x), y: Math.max(0, y) })))
}

/** Where a plate hides least of what is seen while it is there, and nothing of the face. */
function placeFor(extent: Pick<Rect, 'w' | 'h'>, seen: readonly Seen[], shape: Size): Point {
  const places = cornersFor(extent, shape).map((at) => {
    const box = { ...at, ...extent }
    const onFace = seen.some(({ face }) => face !== null && rectsOverlap(box, face))
    const hides = seen.reduce((most, { content }) => Math.max(most, coverageOf(content, box)), 0)
    return { at, cost: (onFace ? 10 : 0) + hides }
  })
  return places.reduce((best, one) => (one.cost < best.cost - 1e-9 ? one : best)).at
}

function plateBox(placed: Placed<Overlay>, overlay: LowerThirdOverlay | TextOverlay, film: Film): Rect | null {
  const plate = layPlate(overlay, film.shape)
  if (plate === null) return null
  const frame = unitsOf(film.shape)
  const extent = { w: plate.width / frame.width, h: plate.height / frame.height }
  if (overlay.at !== null) {
    const { x, y } = overlay.at
    return { x: Math.max(0, Math.min(x, 1 - extent.w)), y: Math.max(0, Math.min(y, 1 - extent.h)), ...extent }
  }
  const seen = visitsOf(film.programme)
    .filter(({ start, length }) => start < placed.to && start + length > placed.from)
    .flatMap((visit) => seenIn(film, visit) ?? [])
  return { ...placeFor(extent, seen, film.shape), ...extent }
}

function boxOf(placed: Placed<Overlay>, film: Film): Rect | null {
  const { hung } = placed
  switch (hung.kind) {
    case 'card':
      return WHOLE
    case 'lower-third':
    case 'text':
      return plateBox(placed, hung, film)
    case 'picture': {
      const frame = { width: hung.box.w * film.shape.width, height: hung.box.h * film.shape.height }
      const fit = fittedInto(hung.size, frame)
      return { x: hung.box.x + fit.x * hung.box.w, y: hung.box.y + fit.y * hung.box.h, w: fit.w * hung.box.w, h: fit.h * hung.box.h }
    }
    default:
      return unreachable(hung)
  }
}

const NONE: readonly FilmOverlay[] = []

/** Makes a film's overlays ready: where each stands is found once. */
export function filmOverlays(film: Film): readonly FilmOverlay[] {
  if (film.programme.overlays === undefined) return NONE
  const end = programmeLength(film.programme)
  return placedOverlays(film.programme).flatMap((placed) => {
    const box = boxOf(placed, film)
    const { hung: overlay, from, to } = placed
    return box === null ? [] : [{ overlay, from, to, box, begins: from <= 0, ends: to >= end }]
  })
}

/** What is read while a visit is shown that a card covers from its beginning to its end; null: none does. */
export const cardOver = (all: readonly FilmOverlay[], { start, length }: Pick<Visit, 'start' | 'length'>): string | null => {
  const card = all.find(({ overlay, from, to }) => overlay.kind === 'card' && from <= start && to >= start + length)
  return card?.overlay.kind === 'card' && card.overlay.heading.trim() !== '' ? card.overlay.heading.trim() : null
}

/** How far an overlay has come at a time of the film, 0 to 1. */
function thereAt({ from, to, begins, ends }: FilmOverlay, t: Ms): number {
  const coming = begins ? 1 : (t - from) / COMES
  const going = ends ? 1 : (to - t) / COMES
  return eased(Math.max(0, Math.min(1, coming, going)))
}

export const NOTHING_OVER: readonly OverlayScene[] = []

/** What lies over a film at a time of it, what began later above what did before; cards above all. */
export function overlaysAt(all: readonly FilmOverlay[], t: Ms): readonly OverlayScene[] {
  if (all.length === 0) return NOTHING_OVER
  const there = all.flatMap((one): readonly OverlayScene[] =>
    t >= one.from && t < one.to ? [{ overlay: one.overlay, box: one.box, there: thereAt(one, t) }] : [],
  )
  if (there.length === 0) return NOTHING_OVER
  return [...there.filter(({ overlay }) => overlay.kind !== 'card'), ...there.filter(({ overlay }) => overlay.kind === 'card')]
}

/** When overlays begin to come, are there, begin to go and are gone between two times of the film. */
export const overlayTurns = (all: readonly FilmOverlay[], from: Ms, to: Ms): readonly Ms[] =>
  all
    .flatMap((one) => [one.from, ...(one.begins ? [] : [one.from + COMES]), ...(one.ends ? [] : [one.to - COMES]), one.to])
    .filter((at) => at > from && at < to)
