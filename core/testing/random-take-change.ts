import type { SlideId, Stretch, VisitId } from '@core/model'
import {
  append,
  dub,
  piecesOfTake,
  replaceFrom,
  retakeRange,
  retakeVisit,
  useRecording,
  versionsOf,
  withoutStretches,
} from '@core/programme'
import { inVisit, withoutVisit } from './change'
import type { Change } from './change'
import { ALGEBRA_SLIDES, nameOf, randomStretch, slideIds, somePlayed, takeOf, timeIn } from './random-talk'
import type { RandomTalk } from './random-talk'
import { momentsOfTake, timesOf } from './reference-talk'
import type { Moment } from './reference-talk'

/** A visit is said again as a whole. */
export function retaking(talk: RandomTalk, visit: VisitId): Change {
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

/** What was recorded before is taken up again in the place of a visit. */
export function takingUp(talk: RandomTalk, visit: VisitId): Change | null {
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

/** A part of a visit is said again. */
export function sayingAgain(talk: RandomTalk, visit: VisitId): Change | null {
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

/** A take goes on at the end, or in the place of all from a moment on. */
export function goingOn(talk: RandomTalk): Change {
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

/** Somebody speaks over what is there from a moment on. */
export function dubbing(talk: RandomTalk): Change | null {
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

/** All of one recording goes. */
export function discarding(talk: RandomTalk): Change | null {
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
