import type { Film, Ms, Programme, Slide, SlideId, VisitId } from '@core/model'
import { applyProgrammeEdit, programmeLength, recordedBySlide, visitsOf } from '@core/programme'
import type { ProgrammeEdit, Stay } from '@core/programme'
import { pausesOf, tightened } from './pauses'
import type { Outlines, Pause } from './pauses'

/** A way to win time, with what it wins and how it is done. The gentlest come first. */
export interface FitStep {
  readonly kind: 'pauses' | 'ends' | 'tempo' | 'optional'
  readonly won: Ms
  /** Places that change. */
  readonly places: number
  /** What is left of each pause, in ms; of tempo how much faster it is, 1.05 for five parts in a hundred. */
  readonly to: number
  readonly edit: ProgrammeEdit
}

export interface FitPlan {
  readonly steps: readonly FitStep[]
  /** The talk's length when all of them are done. */
  readonly length: Ms
  readonly fits: boolean
}

/** Longest pauses that are ever spoken of, and the least that is left of one, in ms. */
const MOST_REST: Ms = 2500
const LEAST_REST: Ms = 400
const LEAST_AT_ENDS: Ms = 300
/** Fastest that a talk is played to fit: few notice. */
export const FASTEST_FIT = 1.08
const FINE = 1000

/** How much each slide can give before it can no longer be read. */
type Room = Map<SlideId, Ms>

/** Cuts that bring pauses down to `rest`, none of which takes a slide below the time it needs. */
function cutsTo(pauses: readonly Pause[], rest: Ms, room: Room, slideOf: (visit: VisitId) => SlideId | undefined): readonly Stay[] {
  return pauses.flatMap((pause) => {
    const slide = slideOf(pause.visit)
    const part = tightened(pause, rest)
    if (part === null || slide === undefined) return []
    const length = Math.min(part.to - part.from, room.get(slide) ?? 0)
    if (length <= 0) return []
    room.set(slide, (room.get(slide) ?? 0) - length)
    return [pause.edge === 'begin' ? { from: part.from, to: part.from + length } : { from: part.to - length, to: part.to }]
  })
}

const lengthOf = (parts: readonly Stay[]): Ms => parts.reduce((sum, { from, to }) => sum + to - from, 0)

/** The longest rest with which cuts win so much; the least one when none does. */
function restFor(wanted: Ms, least: Ms, cutsAt: (rest: Ms) => readonly Stay[]): Ms {
  let [low, high] = [least, MOST_REST]
  if (lengthOf(cutsAt(low)) < wanted) return low
  while (high - low > 10) {
    const middle = Math.round((low + high) / 2)
    if (lengthOf(cutsAt(middle)) >= wanted) low = middle
    else high = middle
  }
  return low
}

/**
 * How a talk is brought to its limit, from the gentlest on: pauses are shortened, then slack where slides begin and end,
 * then all is played a hair faster, and last the slides go that are optional. Each only as far as is needed. Speech is never cut,
 * and no slide is left up for less than it takes to read it.
 * @param limit ms; the talk is never longer afterwards when the plan says that it fits
 * @param leastOf the least time that a slide must be up in all, in ms
 */
export function fitTo(film: Film, outlines: Outlines, limit: Ms, leastOf: (slide: Slide) => Ms, optional: ReadonlySet<SlideId> = new Set()): FitPlan {
  const { programme } = film
  const visits = visitsOf(programme)
  const slideOf = new Map(visits.map((visit) => [visit.id, visit.slide]))
  const total = recordedBySlide(visits)
  const room = (): Room => new Map([...total].map(([slide, length]) => {
    const known = film.slides.get(slide)
    return [slide, known === undefined ? 0 : Math.max(0, length - leastOf(known))]
  }))
  const pauses = pausesOf(film, outlines)
  const inner = pauses.filter((pause) => pause.edge === null)
  const ends = pauses.filter((pause) => pause.edge !== null)
  const find = (visit: VisitId): SlideId | undefined => slideOf.get(visit)

  const steps: FitStep[] = []
  let now: Programme = programme
  const over = (): Ms => programmeLength(now) - limit

  if (over() > 0) {
    const rest = restFor(over(), LEAST_REST, (to) => cutsTo(inner, to, room(), find))
    const left = room()
    const parts = cutsTo(inner, rest, left, find)
    if (parts.length > 0) steps.push({ kind: 'pauses', won: lengthOf(parts), places: parts.length, to: rest, edit: { kind: 'cut', parts } })
    const still = over() - lengthOf(parts)
    const copy = (): Room => new Map(left)
    const end = still > 0 ? restFor(still, LEAST_AT_ENDS, (to) => cutsTo(ends, to, copy(), find)) : MOST_REST
    const slack = still > 0 ? cutsTo(ends, end, copy(), find) : []
    if (slack.length > 0) steps.push({ kind: 'ends', won: lengthOf(slack), places: slack.length, to: end, edit: { kind: 'cut', parts: slack } })
    const all = [...parts, ...slack]
    if (all.length > 0) now = applyProgrammeEdit(programme, { kind: 'cut', parts: all })
  }
  const faster = over() > 0 ? tempoFor(now, film, limit, leastOf) : null
  if (faster !== null) {
    now = applyProgrammeEdit(now, faster.edit)
    steps.push(faster)
  }
  const gone = over() > 0 ? visitsOf(now).filter((visit) => optional.has(visit.slide)) : []
  if (gone.length > 0 && gone.length < visitsOf(now).length) {
    const edit: ProgrammeEdit = { kind: 'drop', visits: gone.map((visit) => visit.id) }
    now = applyProgrammeEdit(now, edit)
    steps.push({ kind: 'optional', won: gone.reduce((sum, visit) => sum + visit.length, 0), places: gone.length, to: 0, edit })
  }
  return { steps, length: programmeLength(now), fits: programmeLength(now) <= limit }
}

/** The least tempo that is enough, or the most that is allowed; visits whose slide would be up too briefly stay as they are. */
function tempoFor(programme: Programme, film: Film, limit: Ms, leastOf: (slide: Slide) => Ms): FitStep | null {
  const visits = visitsOf(programme)
  const total = recordedBySlide(visits)
  const asRecorded = visits.filter((visit) => programme.pieces.slice(...visit.pieces).every((piece) => piece.kind === 'recorded' && piece.rate.num === piece.rate.den))
  const length = programmeLength(programme)
  let best: FitStep | null = null
  for (let num = FINE + 1; num <= FASTEST_FIT * FINE; num += 1) {
    const chosen = asRecorded.filter((visit) => {
      const slide = film.slides.get(visit.slide)
      return slide !== undefined && ((total.get(visit.slide) ?? 0) * FINE) / num >= leastOf(slide)
    })
    if (chosen.length === 0) break
    const edit: ProgrammeEdit = { kind: 'tempo', visits: chosen.map((visit) => visit.id), rate: { num, den: FINE } }
    const after = programmeLength(applyProgrammeEdit(programme, edit))
    best = { kind: 'tempo', won: length - after, places: chosen.length, to: num / FINE, edit }
    if (after <= limit) break
  }
  return best
}

/** All steps of a plan as one edit, to be taken back as one. Steps that cut name times of the talk as it is, so they go together. */
export function wholeFit(steps: readonly FitStep[]): ProgrammeEdit {
  const parts = steps.flatMap(({ edit }) => (edit.kind === 'cut' ? edit.parts : []))
  const cuts: readonly ProgrammeEdit[] = parts.length === 0 ? [] : [{ kind: 'cut', parts }]
  return { kind: 'all', edits: [...cuts, ...steps.map((step) => step.edit).filter((edit) => edit.kind !== 'cut')] }
}

/** Silence kept before the first word and after the last when a talk is trimmed, in ms. */
const BREATH_BEFORE: Ms = 400
const BREATH_AFTER: Ms = 700

/** What can go before the first word of a talk and after the last. */
export function trimmed(film: Film, outlines: Outlines): readonly Stay[] {
  const pauses = pausesOf(film, outlines)
  const length = programmeLength(film.programme)
  const [first] = pauses
  const last = pauses.at(-1)
  const head = first !== undefined && first.from <= 60 && first.to - BREATH_BEFORE >= 100 ? [{ from: 0, to: first.to - BREATH_BEFORE }] : []
  const tail = last !== undefined && last !== first && length - last.to <= 60 && last.to - last.from - BREATH_AFTER >= 100 ? [{ from: last.from + BREATH_AFTER, to: length }] : []
  return [...head, ...tail]
}
