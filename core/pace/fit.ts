import { AS_RECORDED, sameRatio } from '@core/model'
import type { Film, Ms, Programme, Slide, SlideId, VisitId } from '@core/model'
import { applyProgrammeEdit, piecesOfVisit, programmeLength, rangesUnited, recordedBySlide, visitsOf } from '@core/programme'
import type { ProgrammeEdit, TimeRange, Visit } from '@core/programme'
import { fewestToDrop } from './fewest-to-drop'
import { pausesOf, tightened } from './pauses'
import type { Outlines, Pause } from './pauses'

/** A way to win time, with what it wins and how it is done. The gentlest come first. */
export interface FitStep {
  readonly kind: 'pauses' | 'ends' | 'slips' | 'tempo' | 'optional'
  readonly won: Ms
  /** Places that change. */
  readonly places: number
  /** What is left of each pause, in ms, 0 of a slip; of tempo how much faster it is, 1.05 for five parts in a hundred. */
  readonly to: number
  readonly edit: ProgrammeEdit
}

export interface FitPlan {
  readonly steps: readonly FitStep[]
  /** The talk's length when all of them are done. */
  readonly length: Ms
  readonly fits: boolean
}

/** The least that is left of a pause, and of slack where a slide begins or ends, in ms. */
const LEAST_REST: Ms = 400
const LEAST_AT_ENDS: Ms = 300
/** Fastest that a talk is played to fit: few notice. */
export const FASTEST_FIT = 1.08
const FINE = 1000
/** At a tempo a cut may win a millisecond less than was asked of it; so often more is asked. */
const TRIES = 4

/** How much each slide can give before it can no longer be read. */
type Room = ReadonlyMap<SlideId, Ms>

/** Something said by mistake that may go, in ms of the talk. */
export interface SlipTime extends TimeRange {
  readonly visit: VisitId
}

/** What is known of a talk that is to be fitted. */
interface Talk {
  readonly film: Film
  readonly limit: Ms
  readonly leastOf: (slide: Slide) => Ms
  readonly visits: readonly Visit[]
  readonly pauses: readonly Pause[]
  readonly slips: readonly SlipTime[]
}

/** What goes of a pause. */
interface Give {
  readonly pause: Pause
  readonly length: Ms
}

/** What pauses give when each is brought down to `rest`; no slide gives more than it has room for. */
function givesAt(pauses: readonly Pause[], rest: Ms, room: Room, slideOf: ReadonlyMap<VisitId, SlideId>): readonly Give[] {
  const left = new Map(room)
  return pauses.flatMap((pause) => {
    const slide = slideOf.get(pause.visit)
    if (slide === undefined) return []
    const length = Math.floor(Math.min(pause.to - pause.from - rest, left.get(slide) ?? 0))
    if (length <= 0) return []
    left.set(slide, (left.get(slide) ?? 0) - length)
    return [{ pause, length }]
  })
}

const given = (gives: readonly Give[]): Ms => gives.reduce((sum, { length }) => sum + length, 0)

/** What is too much is given back, by the last first. */
function withoutExcess(gives: readonly Give[], wanted: Ms): readonly Give[] {
  let excess = given(gives) - wanted
  return [...gives]
    .reverse()
    .map(({ pause, length }): Give => {
      const back = Math.max(0, Math.min(length, excess))
      excess -= back
      return { pause, length: length - back }
    })
    .filter(({ length }) => length > 0)
    .reverse()
}

/** The longest rest at which pauses win so much, and just what is needed of it; all that they can give when they do not win it. */
function enoughOf(
  pauses: readonly Pause[],
  wanted: Ms,
  least: Ms,
  room: Room,
  slideOf: ReadonlyMap<VisitId, SlideId>,
): { readonly rest: Ms; readonly gives: readonly Give[] } {
  const at = (rest: Ms): readonly Give[] => givesAt(pauses, rest, room, slideOf)
  if (given(at(least)) <= wanted) return { rest: least, gives: at(least) }
  let [low, high] = [least, Math.max(least, ...pauses.map(({ from, to }) => to - from))]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (given(at(middle)) >= wanted) low = middle
    else high = middle
  }
  return { rest: low, gives: withoutExcess(at(low), wanted) }
}

/** The part of the talk that goes of a pause. */
const partOf = ({ pause, length }: Give): TimeRange | null => tightened(pause, pause.to - pause.from - length)

/** What slides can give in all visits that stay. */
function roomOf({ film, leastOf }: Talk, visits: readonly Visit[]): Room {
  return new Map(
    [...recordedBySlide(visits)].map(([slide, length]) => {
      const known = film.slides.get(slide)
      return [slide, known === undefined ? 0 : Math.max(0, length - leastOf(known))]
    }),
  )
}

const stepOf = (kind: 'pauses' | 'ends', rest: Ms, gives: readonly Give[]): readonly FitStep[] =>
  gives.length === 0
    ? []
    : [
        {
          kind,
          won: given(gives),
          places: gives.length,
          to: rest,
          edit: { kind: 'cut', parts: gives.flatMap((give) => partOf(give) ?? []) },
        },
      ]

/** Pauses and slack that win so much, pauses first, slack only where they are not enough. */
function shorter(talk: Talk, dropped: ReadonlySet<VisitId>, wanted: Ms): readonly FitStep[] {
  const visits = talk.visits.filter((visit) => !dropped.has(visit.id))
  const slideOf = new Map(visits.map((visit) => [visit.id, visit.slide]))
  const room = roomOf(talk, visits)
  const inner = enoughOf(
    talk.pauses.filter(({ edge }) => edge === null),
    wanted,
    LEAST_REST,
    room,
    slideOf,
  )
  const left = new Map(room)
  for (const { pause, length } of inner.gives) {
    const slide = slideOf.get(pause.visit)
    if (slide !== undefined) left.set(slide, (left.get(slide) ?? 0) - length)
  }
  const ends = enoughOf(
    talk.pauses.filter(({ edge }) => edge !== null),
    Math.max(0, wanted - given(inner.gives)),
    LEAST_AT_ENDS,
    left,
    slideOf,
  )
  return [...stepOf('pauses', inner.rest, inner.gives), ...(given(inner.gives) >= wanted ? [] : stepOf('ends', ends.rest, ends.gives))]
}

const lengthOf = (parts: readonly TimeRange[]): Ms => parts.reduce((sum, { from, to }) => sum + to - from, 0)
const cutBy = (steps: readonly FitStep[]): readonly TimeRange[] => steps.flatMap(({ edit }) => (edit.kind === 'cut' ? edit.parts : []))

/** As many slips as win so much besides what is cut already, those that win most first. */
function slipsFor(talk: Talk, dropped: ReadonlySet<VisitId>, cuts: readonly FitStep[], wanted: Ms): readonly FitStep[] {
  const visits = talk.visits.filter((visit) => !dropped.has(visit.id))
  const slideOf = new Map(visits.map((visit) => [visit.id, visit.slide]))
  const room = new Map(roomOf(talk, visits))
  const gone = cutBy(cuts)
  // What pauses take of a slide is not left for slips.
  for (const { visit, from, to } of talk.pauses) {
    const slide = slideOf.get(visit)
    const taken = lengthOf(gone.filter((part) => part.from >= from && part.to <= to))
    if (slide !== undefined) room.set(slide, (room.get(slide) ?? 0) - taken)
  }
  const chosen: SlipTime[] = []
  let out = rangesUnited(gone)
  let won = 0
  for (const slip of [...talk.slips].sort((one, other) => lengthOf([other]) - lengthOf([one]))) {
    if (won >= wanted) break
    const slide = slideOf.get(slip.visit)
    const left = slide === undefined ? 0 : (room.get(slide) ?? 0)
    const next = rangesUnited([...out, slip])
    const wins = lengthOf(next) - lengthOf(out)
    if (slide === undefined || wins <= 0 || wins > left) continue
    room.set(slide, left - wins)
    chosen.push(slip)
    out = next
    won += wins
  }
  if (chosen.length === 0) return []
  return [{ kind: 'slips', won, places: chosen.length, to: 0, edit: { kind: 'cut', parts: rangesUnited(chosen) } }]
}

/** Visits that go altogether. */
function dropOf(talk: Talk, dropped: ReadonlySet<VisitId>): readonly FitStep[] {
  const gone = talk.visits.filter((visit) => dropped.has(visit.id))
  if (gone.length === 0) return []
  const won = gone.reduce((sum, visit) => sum + visit.length, 0)
  return [{ kind: 'optional', won, places: gone.length, to: 0, edit: { kind: 'drop', visits: gone.map((visit) => visit.id) } }]
}

const done = (programme: Programme, steps: readonly FitStep[]): Programme =>
  steps.length === 0 ? programme : applyProgrammeEdit(programme, wholeFit(steps))

/** The gentlest steps, each only as far as needed, when some visits go. All that can be done when that is not enough. */
function attempt(talk: Talk, dropped: ReadonlySet<VisitId>): FitPlan {
  const {
    film: { programme },
    limit,
  } = talk
  const drop = dropOf(talk, dropped)
  const over = (steps: readonly FitStep[]): Ms => programmeLength(done(programme, steps)) - limit
  let wanted = Math.max(0, Math.ceil(over(drop)))
  let cuts: readonly FitStep[] = wanted > 0 ? shorter(talk, dropped, wanted) : []
  for (let tries = 1; tries < TRIES && over([...cuts, ...drop]) > 0; tries += 1) {
    wanted += Math.ceil(over([...cuts, ...drop]))
    cuts = shorter(talk, dropped, wanted)
  }
  const left = over([...cuts, ...drop])
  if (left > 0) cuts = [...cuts, ...slipsFor(talk, dropped, cuts, Math.ceil(left) + TRIES)]
  const now = done(programme, [...cuts, ...drop])
  const faster = programmeLength(now) > limit ? tempoFor(now, talk) : null
  const steps = [...cuts, ...(faster === null ? [] : [faster]), ...drop]
  const length = programmeLength(done(programme, steps))
  return { steps, length, fits: length <= limit }
}

/**
 * How a talk is brought to its limit, from the gentlest on: pauses are shortened, then slack where slides begin and end,
 * then slips go, then all is played a hair faster, and only where all of that is not enough slides go that are optional: those that lose
 * the least time. Each only as far as is needed. No speech is cut but slips, and no slide is left up for less than it takes to read it.
 * @param limit ms; the talk is never longer afterwards when the plan says that it fits
 * @param leastOf the least time that a slide must be up in all, in ms
 * @param slips in order, none overlapping
 */
export function fitTo(
  film: Film,
  outlines: Outlines,
  limit: Ms,
  leastOf: (slide: Slide) => Ms,
  optional: ReadonlySet<SlideId> = new Set(),
  slips: readonly SlipTime[] = [],
): FitPlan {
  const length = programmeLength(film.programme)
  if (length <= limit) return { steps: [], length, fits: true }
  const visits = visitsOf(film.programme)
  const talk: Talk = { film, limit, leastOf, visits, pauses: pausesOf(film, outlines), slips }
  const gentle = attempt(talk, new Set())
  const spare = visits.filter((visit) => optional.has(visit.slide))
  if (gentle.fits || spare.length === 0 || spare.length === visits.length) return gentle
  // What each visit still takes once everything gentler was done to it.
  const least = new Map(visitsOf(done(film.programme, gentle.steps)).map((visit) => [visit.id, visit.length]))
  const choices = spare.map((visit) => ({ id: visit.id, wins: least.get(visit.id) ?? 0, costs: visit.length }))
  let wanted = gentle.length - limit
  for (;;) {
    const chosen = fewestToDrop(choices, wanted)
    const plan = attempt(talk, new Set(chosen ?? choices.map(({ id }) => id)))
    if (plan.fits || chosen === null) return plan
    wanted += Math.max(1, plan.length - limit)
  }
}

/** The least tempo that is enough, else the one that wins most; visits whose slide would be up too briefly stay as they are. */
function tempoFor(programme: Programme, { film, limit, leastOf }: Talk): FitStep | null {
  const visits = visitsOf(programme)
  const total = recordedBySlide(visits)
  const asRecorded = visits.filter((visit) =>
    piecesOfVisit(programme, visit).every((piece) => piece.kind === 'recorded' && sameRatio(piece.show.rate, AS_RECORDED)),
  )
  const length = programmeLength(programme)
  let best: FitStep | null = null
  for (let num = FINE + 1; num <= FASTEST_FIT * FINE; num += 1) {
    const chosen = asRecorded.filter((visit) => {
      const slide = film.slides.get(visit.slide)
      return slide !== undefined && ((total.get(visit.slide) ?? 0) * FINE) / num >= leastOf(slide)
    })
    if (chosen.length === 0) break
    // Exact, so that not every tempo has to be tried on the whole talk.
    const won = chosen.reduce((sum, visit) => sum + visit.length, 0) * (1 - FINE / num)
    if (best !== null && won <= best.won) continue
    best = {
      kind: 'tempo',
      won,
      places: chosen.length,
      to: num / FINE,
      edit: { kind: 'tempo', visits: chosen.map((visit) => visit.id), rate: { num, den: FINE } },
    }
    if (length - won <= limit) break
  }
  return best
}

/** All steps of a plan as one edit, to be taken back as one. Steps that cut name times of the talk as it is, so they go together. */
export function wholeFit(steps: readonly FitStep[]): ProgrammeEdit {
  const parts = cutBy(steps)
  const cuts: readonly ProgrammeEdit[] = parts.length === 0 ? [] : [{ kind: 'cut', parts }]
  return { kind: 'all', edits: [...cuts, ...steps.map((step) => step.edit).filter((edit) => edit.kind !== 'cut')] }
}

/** Silence kept before the first word and after the last when a talk is trimmed, in ms. */
const BREATH_BEFORE: Ms = 400
const BREATH_AFTER: Ms = 700

/** A pause this near to a talk's end is at its end, in ms. */
const NEAR: Ms = 60
/** Less than this that is not silent is no word: it is where a neighbour's first or last one swells, in ms. */
const SHORTEST_WORD: Ms = 400

/** What can go before the first word of a talk and after the last. A slide on which nobody speaks at all stays: it was meant to be seen. */
export function trimmed(film: Film, outlines: Outlines): readonly TimeRange[] {
  const pauses = pausesOf(film, outlines)
  const length = programmeLength(film.programme)
  const visits = visitsOf(film.programme)
  const [first, last] = [visits[0], visits.at(-1)]
  if (first === undefined || last === undefined) return []
  const isSpoken = (visit: Visit): boolean =>
    visit.length - pauses.filter((pause) => pause.visit === visit.id).reduce((sum, { from, to }) => sum + to - from, 0) >= SHORTEST_WORD
  const opening = isSpoken(first) ? pauses.find(({ from }) => from <= NEAR) : undefined
  const closing = isSpoken(last) ? pauses.findLast(({ to }) => length - to <= NEAR) : undefined
  const head = opening !== undefined && opening.to - BREATH_BEFORE >= 100 ? [{ from: 0, to: opening.to - BREATH_BEFORE }] : []
  const tail =
    closing !== undefined && closing !== opening && closing.to - closing.from - BREATH_AFTER >= 100
      ? [{ from: closing.from + BREATH_AFTER, to: length }]
      : []
  return [...head, ...tail]
}
