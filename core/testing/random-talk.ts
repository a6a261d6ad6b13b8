import { EMPTY_PROGRAMME, asId } from '@core/model'
import type { Cue, Film, Programme, Slide, SlideId, Stretch, StretchId, TakeId, VisitId } from '@core/model'
import { slide, stretch, stroke } from './make'
import { playedVisits, timesOf } from './reference-talk'
import type { Moment, ReferenceTalk } from './reference-talk'

/** The slides that random talks show. */
export const ALGEBRA_SLIDES: readonly Slide[] = [slide('one', 3), slide('two', 3, { transition: 'fade' }), slide('three', 3)]
/** Nearer than this to a moment's beginning a time is that moment's: nothing is chosen where rounding could go either way. */
export const INSIDE = 0.25

/** Pseudo-random numbers by a 32-bit mix of a counter (mulberry32), so that a run can be had again. */
export function numbersFrom(seed: number): (below: number) => number {
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

/** Their ids. */
export const slideIds = ALGEBRA_SLIDES.map((one) => one.id)
/** A name that nothing of the talk has yet. */
export const nameOf = (talk: RandomTalk, kind: string): string => `${kind}${String((talk.names += 1))}`

function randomCues(talk: RandomTalk, length: number): readonly Cue[] {
  const { random } = talk
  const times = Array.from({ length: random(7) }, () => 1 + random(length - 1)).sort((a, b) => a - b)
  const drawn: string[] = []
  return times.map((at): Cue => {
    const on = slideIds[random(3)] as SlideId
    switch (random(7)) {
      case 0:
      case 1:
        return { kind: 'show', at, slide: on, step: random(3) }
      case 2:
        return { kind: 'wipe', at, slide: on }
      case 3:
        return { kind: 'erase', at, stroke: asId(drawn[random(Math.max(1, drawn.length))] ?? 'none') }
      case 4:
        return {
          kind: 'point',
          at,
          path: [
            { dt: 0, x: 0.2, y: 0.2 },
            { dt: 1 + random(Math.ceil(length / 5)), x: 0.6, y: 0.4 },
          ],
        }
      default: {
        const name = nameOf(talk, 'k')
        drawn.push(name)
        return { kind: 'ink', at, stroke: stroke(name, on, random(Math.ceil(length / 4))) }
      }
    }
  })
}

export function randomStretch(talk: RandomTalk, on: SlideId, cues = true): Stretch {
  const length = talk.sizes.least + talk.random(talk.sizes.most - talk.sizes.least)
  const made = stretch(nameOf(talk, 's'), length, on, cues ? randomCues(talk, length) : [], {
    camera: talk.random(4) > 0,
    kept: talk.random(5) === 0 ? 1 + talk.random(length) : length,
  })
  talk.stretches.set(made.id, made)
  return made
}

export const takeOf = (stretches: readonly Stretch[]) => ({ id: asId<'take'>('take') satisfies TakeId, kind: 'full' as const, stretches })

/** A moment that is played, by its index; null when there is none. */
export function somePlayed(talk: RandomTalk, of: (moment: Moment) => boolean = () => true): number | null {
  const played = talk.reference.moments.flatMap((moment, n) => (moment.out === null && of(moment) ? [n] : []))
  return played.length === 0 ? null : (played[talk.random(played.length)] ?? null)
}

/** A visit that is played; null when there is none. */
export function someVisit(talk: RandomTalk): VisitId | null {
  const visits = playedVisits(talk.reference.moments)
  return visits[talk.random(visits.length)] ?? null
}

/** A time in a moment, well inside it. */
export const timeIn = ({ reference: { moments } }: RandomTalk, n: number): number =>
  (timesOf(moments)[n] ?? 0) + (moments[n]?.takes ?? 0) * INSIDE

/** A talk without anything in it. */
export const emptyTalk = (seed: number, sizes: AlgebraSizes): RandomTalk => ({
  programme: EMPTY_PROGRAMME,
  reference: { moments: [], added: [], hidden: new Set() },
  stretches: new Map(),
  random: numbersFrom(seed),
  sizes,
  names: 0,
})

/** What it would be played as. */
export const filmOf = ({ programme, stretches }: RandomTalk): Film => ({
  programme,
  shape: { width: 16, height: 9 },
  slides: new Map(ALGEBRA_SLIDES.map((one) => [one.id, one])),
  stretches,
})
