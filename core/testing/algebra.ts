import { EMPTY_PROGRAMME, asId } from '@core/model'
import type { AddedInk, Cue, Film, Programme, Ratio, Slide, SlideId, Stretch, StretchId, TakeId, VisitId } from '@core/model'
import { append, applyProgrammeEdit, dub, merged, piecesOfTake, programmeLength, replaceFrom, retakeRange, retakeVisit, seamsOf, useRecording, versionsOf, visitsOf, withoutStretches } from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import { indexFilm, sceneAt } from '@core/scene'
import { slide, stretch, stroke } from './make'
import { inkAt, lengthOf, momentsOf, momentsOfTake, playedVisits, timesOf } from './reference-talk'
import type { Moment, ReferenceInk, ReferenceTalk } from './reference-talk'

/** The slides that random talks show. */
export const ALGEBRA_SLIDES: readonly Slide[] = [slide('one', 3), slide('two', 3, { transition: 'fade' }), slide('three', 3)]
const RATES: readonly Ratio[] = [{ num: 27, den: 25 }, { num: 19, den: 20 }, { num: 21, den: 20 }, { num: 9, den: 10 }, { num: 11, den: 10 }, { num: 1, den: 1 }]
/** Nearer than this to a moment's beginning a time is that moment's: nothing is chosen where rounding could go either way. */
const INSIDE = 0.25
/** A voice over another tempo is divided where the picture is, on whole milliseconds of its own: each time it may move by half of one. */
const VOICE_GRAIN = 4
/** Longest name of anything, whatever was done to it. */
const LONGEST_NAME = 80

/** Pseudo-random numbers by a 32-bit mix of a counter (mulberry32), so that a run can be had again. */
function numbersFrom(seed: number): (below: number) => number {
  let state = seed | 0
  return (below) => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), state | 1)
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61)
    return Math.floor((((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296) * below)
  }
}

/** Lengths of what is recorded: short ones are checked millisecond by millisecond, longer ones frame by frame. */
export interface AlgebraSizes {
  readonly least: number
  readonly most: number
}

/** A talk while it is edited at random, beside its reference. */
export interface RandomTalk {
  programme: Programme
  reference: ReferenceTalk
  readonly stretches: Map<StretchId, Stretch>
  readonly random: (below: number) => number
  readonly sizes: AlgebraSizes
  names: number
}

const slideIds = ALGEBRA_SLIDES.map((one) => one.id)
const nameOf = (talk: RandomTalk, kind: string): string => `${kind}${String(talk.names += 1)}`

function randomCues(talk: RandomTalk, length: number): readonly Cue[] {
  const { random } = talk
  const times = Array.from({ length: random(7) }, () => 1 + random(length - 1)).sort((a, b) => a - b)
  const drawn: string[] = []
  return times.map((at): Cue => {
    const on = slideIds[random(3)] as SlideId
    switch (random(7)) {
      case 0:
      case 1: return { kind: 'show', at, slide: on, step: random(3) }
      case 2: return { kind: 'wipe', at, slide: on }
      case 3: return { kind: 'erase', at, stroke: asId(drawn[random(Math.max(1, drawn.length))] ?? 'none') }
      case 4: return { kind: 'point', at, path: [{ dt: 0, x: 0.2, y: 0.2 }, { dt: 1 + random(Math.ceil(length / 5)), x: 0.6, y: 0.4 }] }
      default: {
        const name = nameOf(talk, 'k')
        drawn.push(name)
        return { kind: 'ink', at, stroke: stroke(name, on, random(Math.ceil(length / 4))) }
      }
    }
  })
}

function randomStretch(talk: RandomTalk, on: SlideId, cues = true): Stretch {
  const length = talk.sizes.least + talk.random(talk.sizes.most - talk.sizes.least)
  const made = stretch(nameOf(talk, 's'), length, on, cues ? randomCues(talk, length) : [], { camera: talk.random(4) > 0, kept: talk.random(5) === 0 ? 1 + talk.random(length) : length })
  talk.stretches.set(made.id, made)
  return made
}

const takeOf = (stretches: readonly Stretch[]) => ({ id: asId<'take'>('take') satisfies TakeId, kind: 'full' as const, stretches })

/** A moment that is played, by its index; null when there is none. */
function somePlayed(talk: RandomTalk, of: (moment: Moment) => boolean = () => true): number | null {
  const played = talk.reference.moments.flatMap((moment, n) => (moment.out === null && of(moment) ? [n] : []))
  return played.length === 0 ? null : played[talk.random(played.length)] ?? null
}

function someVisit(talk: RandomTalk): VisitId | null {
  const visits = playedVisits(talk.reference.moments)
  return visits[talk.random(visits.length)] ?? null
}

const timeIn = ({ reference: { moments } }: RandomTalk, n: number): number => (timesOf(moments)[n] ?? 0) + (moments[n]?.takes ?? 0) * INSIDE

/** What an edit makes of the programme and of the reference. */
interface Change {
  readonly name: string
  readonly programme: (programme: Programme) => Programme
  readonly moments: (moments: readonly Moment[]) => readonly Moment[]
  readonly ink?: (talk: ReferenceTalk) => ReferenceTalk
  /** Whether it touches one visit alone, by name; null: more than one, or the order. */
  readonly only: VisitId | null
}

const edited = (edit: ProgrammeEdit) => (programme: Programme): Programme => applyProgrammeEdit(programme, edit)
const inVisit = (visit: VisitId) => (moment: Moment): boolean => moment.visit === visit
const withoutVisit = (moments: readonly Moment[], visit: VisitId): readonly Moment[] => moments.filter((moment) => moment.visit !== visit)

function insertedBefore(rest: readonly Moment[], before: VisitId | null, added: readonly Moment[]): readonly Moment[] {
  const at = before === null ? rest.length : rest.findIndex(inVisit(before))
  return [...rest.slice(0, at), ...added, ...rest.slice(at)]
}

/** A place where a visit can go: before another one that is played, or at the end. */
function somePlace(talk: RandomTalk): VisitId | null {
  const visits = [...playedVisits(talk.reference.moments), null]
  return visits[talk.random(visits.length)] ?? null
}

function cutting(talk: RandomTalk, only: VisitId | null): Change | null {
  const [a, b] = [somePlayed(talk, only === null ? undefined : inVisit(only)), somePlayed(talk, only === null ? undefined : inVisit(only))]
  if (a === null || b === null || a === b) return null
  const [first, last] = [Math.min(a, b), Math.max(a, b)]
  const visit = talk.reference.moments[first]?.visit
  const name = nameOf(talk, 'cut')
  const moments = (before: readonly Moment[]): readonly Moment[] => before.map((moment, n) => (n >= first && n < last && moment.out === null ? { ...moment, out: name } : moment))
  const one = talk.reference.moments.slice(first, last).every((moment) => moment.visit === visit)
  return { name: 'cut', programme: edited({ kind: 'cut', parts: [{ from: timeIn(talk, first), to: timeIn(talk, last) }] }), moments, only: one && visit !== undefined ? asId(visit) : null }
}

function dropping(talk: RandomTalk, visit: VisitId): Change | null {
  if (playedVisits(talk.reference.moments).length < 2) return null
  const name = nameOf(talk, 'cut')
  return { name: 'drop', programme: edited({ kind: 'drop', visits: [visit] }), moments: (all) => all.map((moment) => (moment.visit === visit && moment.out === null ? { ...moment, out: name } : moment)), only: visit }
}

function opening(talk: RandomTalk): Change | null {
  const cuts = [...new Set(talk.reference.moments.flatMap(({ out }) => out ?? []))]
  const cut = cuts[talk.random(cuts.length)]
  if (cut === undefined) return null
  return { name: 'reopen', programme: edited({ kind: 'reopen', seam: asId(cut) }), moments: (all) => all.map((moment) => (moment.out === cut ? { ...moment, out: null } : moment)), only: null }
}

function moving(talk: RandomTalk, visit: VisitId): Change {
  const before = somePlace(talk)
  return {
    name: 'move', programme: edited({ kind: 'move', visit, before }), only: null,
    moments: (all) => (before === visit ? all : insertedBefore(withoutVisit(all, visit), before, all.filter(inVisit(visit)))),
  }
}

function repeating(talk: RandomTalk, visit: VisitId): Change {
  const [before, name] = [somePlace(talk), nameOf(talk, 'r')]
  return {
    name: 'repeat', programme: edited({ kind: 'repeat', visit, before, name }), only: null,
    moments: (all) => insertedBefore(all, before, all.filter(inVisit(visit)).map((moment) => ({ ...moment, visit: name, out: moment.out === null ? null : `${name}${moment.out}` }))),
  }
}

function changingTempo(talk: RandomTalk, visit: VisitId): Change {
  const rate = RATES[talk.random(RATES.length)] as Ratio
  const takes = rate.den / rate.num
  const all = talk.random(3) === 0
  return {
    name: 'tempo', programme: edited({ kind: 'tempo', visits: all ? [] : [visit], rate }), only: all ? null : visit,
    moments: (moments) => moments.map((moment) => (moment.step !== null || (!all && moment.visit !== visit) ? moment : {
      ...moment, takes, voice: moment.voice && { ...moment.voice, rate: (moment.voice.rate * moment.takes) / takes }, camera: moment.camera && { ...moment.camera, rate: (moment.camera.rate * moment.takes) / takes },
    })),
  }
}

const hushing = (visit: VisitId): Change => ({
  name: 'hush', programme: edited({ kind: 'hush', visits: [visit] }), only: visit,
  moments: (all) => all.map((moment) => (moment.visit === visit ? { ...moment, voice: null } : moment)),
})

const stillMoments = (length: number, like: Pick<Moment, 'visit' | 'slide'>, still: string, from: number, step: number): readonly Moment[] =>
  Array.from({ length }, (_, n) => ({ ...like, step, show: { ground: { kind: 'still' as const, id: asId<'still'>(still) }, at: from + n }, takes: 1, voice: null, camera: null, out: null }))

function lingering(talk: RandomTalk, visit: VisitId): Change | null {
  const { moments } = talk.reference
  const last = moments.findLastIndex((moment) => moment.visit === visit && moment.out === null)
  const [moment, next] = [moments[last], moments[last + 1]]
  if (moment === undefined) return null
  const length = 200 + talk.random(20)
  const goesOn = moment.show.ground.kind === 'still' && !(next?.show.ground.kind === 'still' && next.show.ground.id === moment.show.ground.id)
  const added = goesOn
    ? stillMoments(length, moment, moment.show.ground.id, moment.show.at + 1, moment.step ?? 0)
    : stillMoments(length, moment, nameOf(talk, 'still'), 0, 1)
  return { name: 'linger', programme: edited({ kind: 'linger', visit, length, step: 1 }), only: visit, moments: (all) => [...all.slice(0, last + 1), ...added, ...all.slice(last + 1)] }
}

function inserting(talk: RandomTalk): Change {
  const [before, name, length, on] = [somePlace(talk), nameOf(talk, 'v'), 200 + talk.random(40), slideIds[talk.random(3)] as SlideId]
  return {
    name: 'insert', programme: edited({ kind: 'insert', slide: on, version: 1, length, before, name }), only: null,
    moments: (all) => insertedBefore(all, before, stillMoments(length, { visit: name, slide: on }, name, 0, 0)),
  }
}

function holding(talk: RandomTalk, visit: VisitId): Change | null {
  const own = talk.reference.moments.filter(inVisit(visit))
  const [first] = own
  if (first === undefined || own.some(({ step }) => step === null)) return null
  const length = 200 + talk.random(100)
  return {
    name: 'hold', programme: edited({ kind: 'hold', visit, length }), only: visit,
    moments: (all) => {
      const at = all.findIndex(inVisit(visit))
      return [...all.slice(0, at), ...stillMoments(length, first, first.show.ground.id, first.show.at, first.step ?? 0), ...withoutVisit(all.slice(at), visit)]
    },
  }
}

function retaking(talk: RandomTalk, visit: VisitId): Change {
  const on = talk.reference.moments.find(inVisit(visit))?.slide ?? (slideIds[0] as SlideId)
  const made = randomStretch(talk, on)
  return {
    name: 'retake', programme: (programme) => retakeVisit(programme, visit, piecesOfTake(takeOf([made])), versionsOf(ALGEBRA_SLIDES)), only: null,
    moments: (all) => {
      const at = all.findIndex(inVisit(visit))
      return [...all.slice(0, at), ...momentsOfTake([made]), ...withoutVisit(all.slice(at), visit)]
    },
  }
}

function takingUp(talk: RandomTalk, visit: VisitId): Change | null {
  const stretches = [...talk.stretches.values()]
  const from = stretches[talk.random(stretches.length)] as Stretch
  const showings = piecesOfTake(takeOf([from]))
  const first = showings[talk.random(showings.length)]
  if (first?.kind !== 'recorded') return null
  const pieces = showings.filter((piece) => piece.visit === first.visit)
  const name = nameOf(talk, 'u')
  const own = momentsOfTake([from]).filter(inVisit(first.visit))
  return {
    name: 'use', programme: (programme) => useRecording(programme, visit, pieces, name), only: null,
    moments: (all) => {
      const at = all.findIndex(inVisit(visit))
      const elsewhere = all.some((moment) => moment.visit === first.visit && moment.visit !== visit)
      return [...all.slice(0, at), ...(elsewhere ? own.map((moment) => ({ ...moment, visit: name })) : own), ...withoutVisit(all.slice(at), visit)]
    },
  }
}

function sayingAgain(talk: RandomTalk, visit: VisitId): Change | null {
  const [a, b] = [somePlayed(talk, inVisit(visit)), somePlayed(talk, inVisit(visit))]
  if (a === null || b === null) return null
  const [first, last] = [Math.min(a, b), Math.max(a, b)]
  const { moments } = talk.reference
  const start = timesOf(moments)[moments.findIndex((moment) => moment.visit === visit)] ?? 0
  const made = randomStretch(talk, moments[first]?.slide ?? (slideIds[0] as SlideId))
  const going = nameOf(talk, 'going')
  let after = last
  while (after > first && moments[after - 1]?.out !== null) after -= 1
  return {
    name: 'range', only: null,
    programme: (programme) => retakeRange(programme, visit, timeIn(talk, first) - start, timeIn(talk, last) - start, piecesOfTake(takeOf([made])), versionsOf(ALGEBRA_SLIDES)),
    moments: (all) => {
      const taken = momentsOfTake([made])
      const elsewhere = taken.findIndex((moment) => moment.slide !== all[first]?.slide)
      const own = taken.map((moment, n) => (elsewhere < 0 || n < elsewhere ? { ...moment, visit } : moment))
      const rest = all.slice(after).map((moment) => (elsewhere >= 0 && moment.visit === visit ? { ...moment, visit: going } : moment))
      return [...all.slice(0, first), ...own, ...rest]
    },
  }
}

function goingOn(talk: RandomTalk): Change {
  const made = [randomStretch(talk, slideIds[talk.random(3)] as SlideId), ...(talk.random(2) === 0 ? [randomStretch(talk, slideIds[talk.random(3)] as SlideId)] : [])]
  const at = talk.random(3) === 0 ? somePlayed(talk) : null
  const pieces = piecesOfTake(takeOf(made))
  const time = at === null ? 0 : timeIn(talk, at)
  return {
    name: at === null ? 'append' : 'replaceFrom', only: null,
    programme: (programme) => (at === null ? append(programme, pieces, versionsOf(ALGEBRA_SLIDES)) : replaceFrom(programme, time, pieces, versionsOf(ALGEBRA_SLIDES))),
    moments: (all) => [...(at === null ? all : all.slice(0, at)), ...momentsOfTake(made)],
  }
}

function dubbing(talk: RandomTalk): Change | null {
  const at = somePlayed(talk)
  if (at === null) return null
  const made = randomStretch(talk, slideIds[0] as SlideId, false)
  const begin = timeIn(talk, at)
  const times = timesOf(talk.reference.moments)
  return {
    name: 'dub', programme: (programme) => dub(programme, begin, [{ id: made.id, length: made.kept, camera: made.camera }]), only: null,
    moments: (all) => all.map((moment, n) => {
      const time = times[n] ?? 0
      if (moment.out !== null || moment.step !== null || n < at || (begin + made.kept - time) / moment.takes < 0.5) return moment
      const voice = { stretch: made.id, at: Math.max(0, time - begin), rate: 1 }
      return { ...moment, voice, camera: made.camera ? voice : null }
    }),
  }
}

function discarding(talk: RandomTalk): Change | null {
  const stretches = [...talk.stretches.keys()]
  const gone = stretches[talk.random(stretches.length)]
  if (gone === undefined || talk.reference.moments.every((moment) => moment.out !== null || moment.show.ground.id === gone)) return null
  const kept = (span: Moment['voice']): Moment['voice'] => (span?.stretch === gone ? null : span)
  return {
    name: 'discard', programme: (programme) => withoutStretches(programme, new Set([gone])), only: null,
    moments: (all) => all.filter((moment) => moment.show.ground.id !== gone).map((moment) => ({ ...moment, voice: kept(moment.voice), camera: kept(moment.camera) })),
  }
}

function drawing(talk: RandomTalk): Change | null {
  const at = somePlayed(talk)
  const moment = at === null ? undefined : talk.reference.moments[at]
  if (moment === undefined) return null
  const made = stroke(nameOf(talk, 'a'), moment.slide, talk.random(30))
  const ink: AddedInk = { visit: asId(moment.visit), over: moment.show.ground, at: moment.show.at, stroke: made }
  const added: ReferenceInk = { over: ink.over, at: ink.at, stroke: made.id, slide: made.slide }
  return { name: 'draw', programme: edited({ kind: 'draw', ink }), moments: (all) => all, ink: (reference) => ({ ...reference, added: [...reference.added, added] }), only: null }
}

function deletingInk(talk: RandomTalk, visit: VisitId): Change | null {
  const drawn = [...talk.stretches.values()].flatMap(({ cues }) => cues.flatMap((cue) => (cue.kind === 'ink' ? [String(cue.stroke.id)] : [])))
  const all = [...drawn, ...talk.reference.added.map((ink) => ink.stroke)]
  const gone = all[talk.random(all.length)]
  if (gone === undefined) return null
  return {
    name: 'delete ink', programme: edited({ kind: 'ink', visit, strokes: [asId(gone)], change: { kind: 'delete' } }), moments: (moments) => moments, only: null,
    ink: (reference) => ({ ...reference, hidden: new Set([...reference.hidden, gone]), added: reference.added.filter((ink) => ink.stroke !== gone) }),
  }
}

/** An edit of one visit alone. */
function inOneVisit(talk: RandomTalk, visit: VisitId): Change | null {
  switch (talk.random(3)) {
    case 0: return cutting(talk, visit)
    case 1: return hushing(visit)
    default: {
      const change = changingTempo(talk, visit)
      return change.only === null ? null : change
    }
  }
}

/** Two edits of different visits: made on two pages and brought together, or the first taken back once the second was made. */
function twoPages(talk: RandomTalk): Change | null {
  const [a, b] = [someVisit(talk), someVisit(talk)]
  if (a === null || b === null || a === b) return null
  const [left, right] = [inOneVisit(talk, a), inOneVisit(talk, b)]
  if (left === null || right === null) return null
  if (talk.random(2) === 0) {
    return { name: `merge ${left.name} and ${right.name}`, only: null, programme: (base) => merged(base, left.programme(base), right.programme(base)), moments: (all) => right.moments(left.moments(all)) }
  }
  return {
    name: `undo ${left.name} after ${right.name}`, only: null,
    programme: (base) => {
      const after = left.programme(base)
      return merged(after, base, merged(base, right.programme(base), after))
    },
    moments: right.moments,
  }
}

function randomChange(talk: RandomTalk): Change | null {
  const visit = someVisit(talk)
  if (visit === null) return goingOn(talk)
  const changes: readonly (() => Change | null)[] = [
    () => cutting(talk, null), () => cutting(talk, visit), () => cutting(talk, null), () => dropping(talk, visit), () => opening(talk), () => opening(talk), () => moving(talk, visit), () => repeating(talk, visit),
    () => changingTempo(talk, visit), () => changingTempo(talk, visit), () => hushing(visit), () => lingering(talk, visit), () => inserting(talk), () => holding(talk, visit), () => retaking(talk, visit),
    () => takingUp(talk, visit), () => sayingAgain(talk, visit), () => goingOn(talk), () => dubbing(talk), () => discarding(talk), () => drawing(talk), () => drawing(talk), () => deletingInk(talk, visit), () => twoPages(talk),
  ]
  return changes[talk.random(changes.length)]?.() ?? null
}

/** A talk of one take, before anything was done to it. */
export function randomTalk(seed: number, sizes: AlgebraSizes): RandomTalk {
  const talk: RandomTalk = {
    programme: EMPTY_PROGRAMME, reference: { moments: [], added: [], hidden: new Set() }, stretches: new Map(), random: numbersFrom(seed), sizes, names: 0,
  }
  doChange(talk, goingOn(talk))
  return talk
}

function doChange(talk: RandomTalk, change: Change): void {
  talk.programme = change.programme(talk.programme)
  const { reference } = talk
  talk.reference = { ...(change.ink?.(reference) ?? reference), moments: change.moments(reference.moments) }
}

/** Does something to a talk. @returns what was done; null when that was not possible */
export function changeAtRandom(talk: RandomTalk): string | null {
  const change = randomChange(talk)
  if (change === null || change.moments(talk.reference.moments).every((moment) => moment.out !== null)) return null
  doChange(talk, change)
  return change.name
}

export const filmOf = ({ programme, stretches }: RandomTalk): Film =>
  ({ programme, shape: { width: 16, height: 9 }, slides: new Map(ALGEBRA_SLIDES.map((one) => [one.id, one])), stretches })

function must(holds: boolean, says: () => string): void {
  if (!holds) throw new Error(says())
}

/** Names of one kind in a programme and in its reference go with each other one to one; the reference takes on those of the programme. */
function renaming(pairs: readonly (readonly [string | null, string | null])[], kind: string): ReadonlyMap<string, string> {
  const [there, back] = [new Map<string, string>(), new Map<string, string>()]
  for (const [mine, real] of pairs) {
    must((mine === null) === (real === null), () => `${kind}: ${String(mine)} is ${String(real)}`)
    if (mine === null || real === null) continue
    must((there.get(mine) ?? real) === real && (back.get(real) ?? mine) === mine, () => `${kind}: ${mine} is ${real}, and was ${String(there.get(mine))}`)
    must(real.length <= LONGEST_NAME, () => `${kind}: the name ${real} has grown too long`)
    there.set(mine, real)
    back.set(real, mine)
  }
  return there
}

const near = (a: number, b: number, grain: number): boolean => Math.abs(a - b) <= grain

/** Whether the same is heard; at its very ends a voice that was divided may be a moment shorter. */
function sameSound(talk: RandomTalk, mine: Moment['voice'], real: Moment['voice']): boolean {
  const known = mine ?? real
  if (known === null) return true
  if (mine === null || real === null) return known.at < VOICE_GRAIN || near(known.at, talk.stretches.get(known.stretch)?.kept ?? 0, VOICE_GRAIN) || known.rate !== 1
  return mine.stretch === real.stretch && near(mine.at, real.at, VOICE_GRAIN) && near(mine.rate, real.rate, 1e-9)
}

/** Whether a piece begins or ends near a moment: there a voice at another rate may be a millisecond shorter than what it goes with. */
function isNearEdge(moments: readonly Moment[], n: number): boolean {
  const here = moments[n]
  const goesOn = (by: number): boolean => {
    const there = moments[n + by]
    return there !== undefined && here !== undefined && there.show.ground.id === here.show.ground.id && there.show.at === here.show.at + by && there.out === here.out && there.visit === here.visit
  }
  return ![-2, -1, 1, 2].every(goesOn)
}

function checkVisits(talk: RandomTalk): void {
  const { programme, reference: { moments } } = talk
  const runs = moments.filter(({ visit }, n) => moments[n - 1]?.visit !== visit).map(({ visit }) => visit)
  must(new Set(runs).size === runs.length, () => `a visit stands in two places: ${runs.join(' ')}`)
  const visits = visitsOf(programme)
  must(visits.map(({ id }) => id).join(' ') === playedVisits(moments).join(' '), () => 'other visits are played')
  const times = timesOf(moments)
  for (const visit of visits) {
    const own = moments.flatMap((moment, n) => (moment.visit === visit.id ? [n] : []))
    const [from, to] = [times[own[0] ?? 0] ?? 0, times[(own.at(-1) ?? 0) + 1] ?? 0]
    must(near(visit.start, from, 1e-5) && near(visit.length, to - from, 1e-5), () => `visit ${visit.id} lies at ${String(visit.start)}, not ${String(from)}`)
  }
  const out = moments.reduce((sum, moment) => sum + (moment.out === null ? 0 : moment.takes), 0)
  const seams = seamsOf(programme)
  must(seams.reduce((sum, seam) => sum + seam.length, 0) <= out + 1e-5 && (seams.length > 0) === (out > 0), () => 'seams show more than was cut')
}

/**
 * Holds a programme to its reference, millisecond by millisecond.
 * @throws Error saying where they part
 */
export function checkAgainstReference(talk: RandomTalk): void {
  const real = momentsOf(talk.programme)
  const mine = talk.reference.moments
  must(real.length === mine.length, () => `${String(real.length)} moments instead of ${String(mine.length)}`)
  const pairs = (of: (moment: Moment) => string | null): readonly (readonly [string | null, string | null])[] =>
    mine.map((moment, n) => [of(moment), real[n] === undefined ? null : of(real[n])] as const)
  const visits = renaming(pairs(({ visit }) => visit), 'visit')
  const cuts = renaming(pairs(({ out }) => out), 'cut')
  const stills = renaming(pairs(({ show }) => (show.ground.kind === 'still' ? show.ground.id : null)), 'still')
  for (const [n, moment] of mine.entries()) {
    const there = real[n] as Moment
    const stretchMatches = moment.show.ground.kind === 'still' || moment.show.ground.id === there.show.ground.id
    must(stretchMatches && moment.show.at === there.show.at && moment.slide === there.slide && moment.step === there.step && near(moment.takes, there.takes, 1e-9), () =>
      `moment ${String(n)} shows ${there.show.ground.id} ${String(there.show.at)}, not ${moment.show.ground.id} ${String(moment.show.at)}`)
    const edge = isNearEdge(real, n)
    must(sameSound(talk, moment.voice, there.voice) || (edge && there.voice === null), () => `moment ${String(n)} is heard as ${JSON.stringify(there.voice)}, not ${JSON.stringify(moment.voice)}`)
    must(sameSound(talk, moment.camera, there.camera) || (edge && there.camera === null), () => `moment ${String(n)} is filmed as ${JSON.stringify(there.camera)}, not ${JSON.stringify(moment.camera)}`)
  }
  // Names are the programme's own from here on.
  talk.reference = {
    ...talk.reference,
    moments: mine.map((moment, n) => ({
      ...moment, visit: visits.get(moment.visit) ?? '', out: moment.out === null ? null : cuts.get(moment.out) ?? '', show: real[n]?.show ?? moment.show, voice: real[n]?.voice ?? null, camera: real[n]?.camera ?? null,
    })),
    added: talk.reference.added.map((ink) => (ink.over.kind === 'still' ? { ...ink, over: { kind: 'still', id: asId(stills.get(ink.over.id) ?? ink.over.id) } } : ink)),
  }
  must(near(programmeLength(talk.programme), lengthOf(mine), 1e-5), () => `it is ${String(programmeLength(talk.programme))} long, not ${String(lengthOf(mine))}`)
  checkVisits(talk)
}

/** The step that a moment shows, read from its recording's cues. */
export function stepShown({ show, step }: Moment, stretches: ReadonlyMap<StretchId, Stretch>): number {
  if (show.ground.kind === 'still') return step ?? 0
  const made = stretches.get(show.ground.id)
  const shown = made?.cues.filter((cue) => cue.kind === 'show' && cue.at <= show.at).at(-1)
  return shown?.kind === 'show' ? shown.step : made?.opening.step ?? 0
}

/**
 * Asks a talk's film what is seen and heard at random times, and holds the answers to the reference.
 * @throws Error saying what is not there
 */
export function checkScenes(talk: RandomTalk, times: number): void {
  const index = indexFilm(filmOf(talk))
  const starts = timesOf(talk.reference.moments)
  for (let n = 0; n < times; n += 1) {
    const at = somePlayed(talk)
    const moment = at === null ? undefined : talk.reference.moments[at]
    if (at === null || moment === undefined) return
    const scene = sceneAt(index, (starts[at] ?? 0) + moment.takes * INSIDE)
    const where = `at moment ${String(at)}`
    must(scene?.slide === moment.slide && scene.step === stepShown(moment, talk.stretches), () => `${where} step ${String(scene?.step)} of ${String(scene?.slide)} is seen`)
    const wanted = [...inkAt(talk.reference, at, talk.stretches)].sort().join(' ')
    const seen = (scene?.ink ?? []).map((drawn) => String(drawn.stroke.id)).sort().join(' ')
    must(seen === wanted, () => `${where} the ink is [${seen}], not [${wanted}]`)
    must((scene?.voice?.stretch ?? null) === (moment.voice?.stretch ?? null) || moment.voice === null, () => `${where} another voice is heard`)
    if (moment.voice !== null && scene?.voice != null) must(near(scene.voice.at, moment.voice.at, VOICE_GRAIN), () => `${where} its voice is heard at another time`)
  }
}

/**
 * One run: a talk is edited at random, and held to its reference after each edit.
 * @param seed decides all of it
 * @param edits that are tried
 * @throws Error naming the edits until it went wrong
 */
export function algebraRun(seed: number, edits: number): void {
  const talk = randomTalk(seed, { least: 12, most: 90 })
  const done: string[] = []
  try {
    for (let n = 0; n < edits; n += 1) {
      const name = changeAtRandom(talk)
      if (name === null) continue
      done.push(name)
      checkAgainstReference(talk)
    }
    checkScenes(talk, 12)
  } catch (error) {
    throw new Error(`seed ${String(seed)}: ${done.join(', ')}: ${error instanceof Error ? error.message : String(error)}`, { cause: error })
  }
}
