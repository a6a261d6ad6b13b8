import { asId } from '@core/model'
import type { AddedInk, Programme, Ratio, SlideId, Stretch, VisitId } from '@core/model'
import {
  append,
  applyProgrammeEdit,
  dub,
  merged,
  piecesOfTake,
  replaceFrom,
  retakeRange,
  retakeVisit,
  useRecording,
  versionsOf,
  withoutStretches,
} from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import { stroke } from './make'
import { ALGEBRA_SLIDES, emptyTalk, nameOf, randomStretch, slideIds, somePlayed, someVisit, takeOf, timeIn } from './random-talk'
import type { AlgebraSizes, RandomTalk } from './random-talk'
import { momentsOfTake, playedVisits, timesOf } from './reference-talk'
import type { Moment, ReferenceInk, ReferenceTalk } from './reference-talk'

const RATES: readonly Ratio[] = [
  { num: 27, den: 25 },
  { num: 19, den: 20 },
  { num: 21, den: 20 },
  { num: 9, den: 10 },
  { num: 11, den: 10 },
  { num: 1, den: 1 },
]

/** What an edit makes of the programme and of the reference. */
interface Change {
  readonly name: string
  readonly programme: (programme: Programme) => Programme
  readonly moments: (moments: readonly Moment[]) => readonly Moment[]
  readonly ink?: (talk: ReferenceTalk) => ReferenceTalk
  /** Whether it touches one visit alone, by name; null: more than one, or the order. */
  readonly only: VisitId | null
}

const edited =
  (edit: ProgrammeEdit) =>
  (programme: Programme): Programme =>
    applyProgrammeEdit(programme, edit)
const inVisit =
  (visit: VisitId) =>
  (moment: Moment): boolean =>
    moment.visit === visit
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
  const moments = (before: readonly Moment[]): readonly Moment[] =>
    before.map((moment, n) => (n >= first && n < last && moment.out === null ? { ...moment, out: name } : moment))
  const one = talk.reference.moments.slice(first, last).every((moment) => moment.visit === visit)
  return {
    name: 'cut',
    programme: edited({ kind: 'cut', parts: [{ from: timeIn(talk, first), to: timeIn(talk, last) }] }),
    moments,
    only: one && visit !== undefined ? asId(visit) : null,
  }
}

function dropping(talk: RandomTalk, visit: VisitId): Change | null {
  if (playedVisits(talk.reference.moments).length < 2) return null
  const name = nameOf(talk, 'cut')
  return {
    name: 'drop',
    programme: edited({ kind: 'drop', visits: [visit] }),
    moments: (all) => all.map((moment) => (moment.visit === visit && moment.out === null ? { ...moment, out: name } : moment)),
    only: visit,
  }
}

function opening(talk: RandomTalk): Change | null {
  const cuts = [...new Set(talk.reference.moments.flatMap(({ out }) => out ?? []))]
  const cut = cuts[talk.random(cuts.length)]
  if (cut === undefined) return null
  return {
    name: 'reopen',
    programme: edited({ kind: 'reopen', seam: asId(cut) }),
    moments: (all) => all.map((moment) => (moment.out === cut ? { ...moment, out: null } : moment)),
    only: null,
  }
}

function moving(talk: RandomTalk, visit: VisitId): Change {
  const before = somePlace(talk)
  return {
    name: 'move',
    programme: edited({ kind: 'move', visit, before }),
    only: null,
    moments: (all) => (before === visit ? all : insertedBefore(withoutVisit(all, visit), before, all.filter(inVisit(visit)))),
  }
}

function repeating(talk: RandomTalk, visit: VisitId): Change {
  const [before, name] = [somePlace(talk), nameOf(talk, 'r')]
  return {
    name: 'repeat',
    programme: edited({ kind: 'repeat', visit, before, name }),
    only: null,
    moments: (all) =>
      insertedBefore(
        all,
        before,
        all.filter(inVisit(visit)).map((moment) => ({ ...moment, visit: name, out: moment.out === null ? null : `${name}${moment.out}` })),
      ),
  }
}

function changingTempo(talk: RandomTalk, visit: VisitId): Change {
  const rate = RATES[talk.random(RATES.length)] as Ratio
  const takes = rate.den / rate.num
  const all = talk.random(3) === 0
  return {
    name: 'tempo',
    programme: edited({ kind: 'tempo', visits: all ? [] : [visit], rate }),
    only: all ? null : visit,
    moments: (moments) =>
      moments.map((moment) =>
        moment.step !== null || (!all && moment.visit !== visit)
          ? moment
          : {
              ...moment,
              takes,
              voice: moment.voice && { ...moment.voice, rate: (moment.voice.rate * moment.takes) / takes },
              camera: moment.camera && { ...moment.camera, rate: (moment.camera.rate * moment.takes) / takes },
            },
      ),
  }
}

const hushing = (visit: VisitId): Change => ({
  name: 'hush',
  programme: edited({ kind: 'hush', visits: [visit] }),
  only: visit,
  moments: (all) => all.map((moment) => (moment.visit === visit ? { ...moment, voice: null } : moment)),
})

const stillMoments = (
  length: number,
  like: Pick<Moment, 'visit' | 'slide'>,
  still: string,
  from: number,
  step: number,
): readonly Moment[] =>
  Array.from({ length }, (_, n) => ({
    ...like,
    step,
    show: { ground: { kind: 'still' as const, id: asId<'still'>(still) }, at: from + n },
    takes: 1,
    voice: null,
    camera: null,
    out: null,
  }))

function lingering(talk: RandomTalk, visit: VisitId): Change | null {
  const { moments } = talk.reference
  const last = moments.findLastIndex((moment) => moment.visit === visit && moment.out === null)
  const [moment, next] = [moments[last], moments[last + 1]]
  if (moment === undefined) return null
  const length = 200 + talk.random(20)
  const goesOn =
    moment.show.ground.kind === 'still' && !(next?.show.ground.kind === 'still' && next.show.ground.id === moment.show.ground.id)
  const added = goesOn
    ? stillMoments(length, moment, moment.show.ground.id, moment.show.at + 1, moment.step ?? 0)
    : stillMoments(length, moment, nameOf(talk, 'still'), 0, 1)
  return {
    name: 'linger',
    programme: edited({ kind: 'linger', visit, length, step: 1 }),
    only: visit,
    moments: (all) => [...all.slice(0, last + 1), ...added, ...all.slice(last + 1)],
  }
}

function inserting(talk: RandomTalk): Change {
  const [before, name, length, on] = [somePlace(talk), nameOf(talk, 'v'), 200 + talk.random(40), slideIds[talk.random(3)] as SlideId]
  return {
    name: 'insert',
    programme: edited({ kind: 'insert', slide: on, version: 1, length, before, name }),
    only: null,
    moments: (all) => insertedBefore(all, before, stillMoments(length, { visit: name, slide: on }, name, 0, 0)),
  }
}

function holding(talk: RandomTalk, visit: VisitId): Change | null {
  const own = talk.reference.moments.filter(inVisit(visit))
  const [first] = own
  if (first === undefined || own.some(({ step }) => step === null)) return null
  const length = 200 + talk.random(100)
  return {
    name: 'hold',
    programme: edited({ kind: 'hold', visit, length }),
    only: visit,
    moments: (all) => {
      const at = all.findIndex(inVisit(visit))
      return [
        ...all.slice(0, at),
        ...stillMoments(length, first, first.show.ground.id, first.show.at, first.step ?? 0),
        ...withoutVisit(all.slice(at), visit),
      ]
    },
  }
}

function retaking(talk: RandomTalk, visit: VisitId): Change {
  const on = talk.reference.moments.find(inVisit(visit))?.slide ?? (slideIds[0] as SlideId)
  const made = randomStretch(talk, on)
  return {
    name: 'retake',
    programme: (programme) => retakeVisit(programme, visit, piecesOfTake(takeOf([made])), versionsOf(ALGEBRA_SLIDES)),
    only: null,
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
    name: 'use',
    programme: (programme) => useRecording(programme, visit, pieces, name),
    only: null,
    moments: (all) => {
      const at = all.findIndex(inVisit(visit))
      const elsewhere = all.some((moment) => moment.visit === first.visit && moment.visit !== visit)
      return [
        ...all.slice(0, at),
        ...(elsewhere ? own.map((moment) => ({ ...moment, visit: name })) : own),
        ...withoutVisit(all.slice(at), visit),
      ]
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
    name: 'range',
    only: null,
    programme: (programme) =>
      retakeRange(
        programme,
        visit,
        timeIn(talk, first) - start,
        timeIn(talk, last) - start,
        piecesOfTake(takeOf([made])),
        versionsOf(ALGEBRA_SLIDES),
      ),
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
  const made = [
    randomStretch(talk, slideIds[talk.random(3)] as SlideId),
    ...(talk.random(2) === 0 ? [randomStretch(talk, slideIds[talk.random(3)] as SlideId)] : []),
  ]
  const at = talk.random(3) === 0 ? somePlayed(talk) : null
  const pieces = piecesOfTake(takeOf(made))
  const time = at === null ? 0 : timeIn(talk, at)
  return {
    name: at === null ? 'append' : 'replaceFrom',
    only: null,
    programme: (programme) =>
      at === null
        ? append(programme, pieces, versionsOf(ALGEBRA_SLIDES))
        : replaceFrom(programme, time, pieces, versionsOf(ALGEBRA_SLIDES)),
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
    name: 'dub',
    programme: (programme) => dub(programme, begin, [{ id: made.id, length: made.kept, camera: made.camera }]),
    only: null,
    moments: (all) =>
      all.map((moment, n) => {
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
    name: 'discard',
    programme: (programme) => withoutStretches(programme, new Set([gone])),
    only: null,
    moments: (all) =>
      all
        .filter((moment) => moment.show.ground.id !== gone)
        .map((moment) => ({ ...moment, voice: kept(moment.voice), camera: kept(moment.camera) })),
  }
}

function drawing(talk: RandomTalk): Change | null {
  const at = somePlayed(talk)
  const moment = at === null ? undefined : talk.reference.moments[at]
  if (moment === undefined) return null
  const made = stroke(nameOf(talk, 'a'), moment.slide, talk.random(30))
  const ink: AddedInk = { visit: asId(moment.visit), over: moment.show.ground, at: moment.show.at, stroke: made }
  const added: ReferenceInk = { over: ink.over, at: ink.at, stroke: made.id, slide: made.slide }
  return {
    name: 'draw',
    programme: edited({ kind: 'draw', ink }),
    moments: (all) => all,
    ink: (reference) => ({ ...reference, added: [...reference.added, added] }),
    only: null,
  }
}

function deletingInk(talk: RandomTalk, visit: VisitId): Change | null {
  const drawn = [...talk.stretches.values()].flatMap(({ cues }) =>
    cues.flatMap((cue) => (cue.kind === 'ink' ? [String(cue.stroke.id)] : [])),
  )
  const all = [...drawn, ...talk.reference.added.map((ink) => ink.stroke)]
  const gone = all[talk.random(all.length)]
  if (gone === undefined) return null
  return {
    name: 'delete ink',
    programme: edited({ kind: 'ink', visit, strokes: [asId(gone)], change: { kind: 'delete' } }),
    moments: (moments) => moments,
    only: null,
    ink: (reference) => ({
      ...reference,
      hidden: new Set([...reference.hidden, gone]),
      added: reference.added.filter((ink) => ink.stroke !== gone),
    }),
  }
}

/** An edit of one visit alone. */
function inOneVisit(talk: RandomTalk, visit: VisitId): Change | null {
  switch (talk.random(3)) {
    case 0:
      return cutting(talk, visit)
    case 1:
      return hushing(visit)
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
    return {
      name: `merge ${left.name} and ${right.name}`,
      only: null,
      programme: (base) => merged(base, left.programme(base), right.programme(base)),
      moments: (all) => right.moments(left.moments(all)),
    }
  }
  return {
    name: `undo ${left.name} after ${right.name}`,
    only: null,
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
    () => cutting(talk, null),
    () => cutting(talk, visit),
    () => cutting(talk, null),
    () => dropping(talk, visit),
    () => opening(talk),
    () => opening(talk),
    () => moving(talk, visit),
    () => repeating(talk, visit),
    () => changingTempo(talk, visit),
    () => changingTempo(talk, visit),
    () => hushing(visit),
    () => lingering(talk, visit),
    () => inserting(talk),
    () => holding(talk, visit),
    () => retaking(talk, visit),
    () => takingUp(talk, visit),
    () => sayingAgain(talk, visit),
    () => goingOn(talk),
    () => dubbing(talk),
    () => discarding(talk),
    () => drawing(talk),
    () => drawing(talk),
    () => deletingInk(talk, visit),
    () => twoPages(talk),
  ]
  return changes[talk.random(changes.length)]?.() ?? null
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

/** A talk of one take, before anything else was done to it. */
export function randomTalk(seed: number, sizes: AlgebraSizes): RandomTalk {
  const talk = emptyTalk(seed, sizes)
  doChange(talk, goingOn(talk))
  return talk
}
