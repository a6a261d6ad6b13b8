import type { AddedInk, Ratio, SlideId, VisitId } from '@core/model'
import { asId } from '@core/model'
import { merged } from '@core/programme'
import { edited, inVisit, insertedBefore, somePlace, withoutVisit } from './change'
import type { Change } from './change'
import { stroke } from './make'
import { emptyTalk, nameOf, slideIds, somePlayed, someVisit, timeIn } from './random-talk'
import type { AlgebraSizes, RandomTalk } from './random-talk'
import { discarding, dubbing, goingOn, retaking, sayingAgain, takingUp } from './random-take-change'
import { playedVisits } from './reference-talk'
import type { Moment, ReferenceInk } from './reference-talk'

const RATES: readonly Ratio[] = [
  { num: 27, den: 25 },
  { num: 19, den: 20 },
  { num: 21, den: 20 },
  { num: 9, den: 10 },
  { num: 11, den: 10 },
  { num: 1, den: 1 },
]
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
