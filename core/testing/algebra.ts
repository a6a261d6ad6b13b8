import { asId } from '@core/model'
import type { Stretch, StretchId } from '@core/model'
import { programmeLength, seamsOf, visitsOf } from '@core/programme'
import { indexFilm, sceneAt } from '@core/scene'
import { changeAtRandom, randomTalk } from './random-change'
import { INSIDE, filmOf, somePlayed } from './random-talk'
import type { RandomTalk } from './random-talk'
import { inkAt, lengthOf, momentsOf, playedVisits, timesOf } from './reference-talk'
import type { Moment } from './reference-talk'

/** A voice over another tempo is divided where the picture is, on whole milliseconds of its own: each time it may move by half of one. */
const VOICE_GRAIN = 4
/** Longest name of anything, whatever was done to it. */
const LONGEST_NAME = 80

function must(holds: boolean, says: () => string): void {
  if (!holds) throw new Error(says())
}

/** Names of one kind in a programme and in its reference go with each other one to one; the reference takes on those of the programme. */
function renaming(pairs: readonly (readonly [string | null, string | null])[], kind: string): ReadonlyMap<string, string> {
  const [there, back] = [new Map<string, string>(), new Map<string, string>()]
  for (const [mine, real] of pairs) {
    must((mine === null) === (real === null), () => `${kind}: ${String(mine)} is ${String(real)}`)
    if (mine === null || real === null) continue
    must(
      (there.get(mine) ?? real) === real && (back.get(real) ?? mine) === mine,
      () => `${kind}: ${mine} is ${real}, and was ${String(there.get(mine))}`,
    )
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
  if (mine === null || real === null)
    return known.at < VOICE_GRAIN || near(known.at, talk.stretches.get(known.stretch)?.kept ?? 0, VOICE_GRAIN) || known.rate !== 1
  return mine.stretch === real.stretch && near(mine.at, real.at, VOICE_GRAIN) && near(mine.rate, real.rate, 1e-9)
}

/** Whether a piece begins or ends near a moment: there a voice at another rate may be a millisecond shorter than what it goes with. */
function isNearEdge(moments: readonly Moment[], n: number): boolean {
  const here = moments[n]
  const goesOn = (by: number): boolean => {
    const there = moments[n + by]
    return (
      there !== undefined &&
      here !== undefined &&
      there.show.ground.id === here.show.ground.id &&
      there.show.at === here.show.at + by &&
      there.out === here.out &&
      there.visit === here.visit
    )
  }
  return ![-2, -1, 1, 2].every(goesOn)
}

function checkVisits(talk: RandomTalk): void {
  const {
    programme,
    reference: { moments },
  } = talk
  const runs = moments.filter(({ visit }, n) => moments[n - 1]?.visit !== visit).map(({ visit }) => visit)
  must(new Set(runs).size === runs.length, () => `a visit stands in two places: ${runs.join(' ')}`)
  const visits = visitsOf(programme)
  must(visits.map(({ id }) => id).join(' ') === playedVisits(moments).join(' '), () => 'other visits are played')
  const times = timesOf(moments)
  const first = new Map<string, number>()
  const last = new Map<string, number>()
  for (const [n, { visit }] of moments.entries()) {
    if (!first.has(visit)) first.set(visit, n)
    last.set(visit, n)
  }
  for (const visit of visits) {
    const [from, to] = [times[first.get(visit.id) ?? 0] ?? 0, times[(last.get(visit.id) ?? 0) + 1] ?? 0]
    must(
      near(visit.start, from, 1e-5) && near(visit.length, to - from, 1e-5),
      () => `visit ${visit.id} lies at ${String(visit.start)}, not ${String(from)}`,
    )
  }
  const out = moments.reduce((sum, moment) => sum + (moment.out === null ? 0 : moment.takes), 0)
  const seams = seamsOf(programme)
  must(
    seams.reduce((sum, seam) => sum + seam.length, 0) <= out + 1e-5 && seams.length > 0 === out > 0,
    () => 'seams show more than was cut',
  )
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
  const visits = renaming(
    pairs(({ visit }) => visit),
    'visit',
  )
  const cuts = renaming(
    pairs(({ out }) => out),
    'cut',
  )
  const stills = renaming(
    pairs(({ show }) => (show.ground.kind === 'still' ? show.ground.id : null)),
    'still',
  )
  for (const [n, moment] of mine.entries()) {
    const there = real[n] as Moment
    const stretchMatches = moment.show.ground.kind === 'still' || moment.show.ground.id === there.show.ground.id
    must(
      stretchMatches &&
        moment.show.at === there.show.at &&
        moment.slide === there.slide &&
        moment.step === there.step &&
        near(moment.takes, there.takes, 1e-9),
      () =>
        `moment ${String(n)} shows ${there.show.ground.id} ${String(there.show.at)}, not ${moment.show.ground.id} ` +
        `${String(moment.show.at)}`,
    )
    must(
      sameSound(talk, moment.voice, there.voice) || (there.voice === null && isNearEdge(real, n)),
      () => `moment ${String(n)} is heard as ${JSON.stringify(there.voice)}, not ${JSON.stringify(moment.voice)}`,
    )
    must(
      sameSound(talk, moment.camera, there.camera) || (there.camera === null && isNearEdge(real, n)),
      () => `moment ${String(n)} is filmed as ${JSON.stringify(there.camera)}, not ${JSON.stringify(moment.camera)}`,
    )
  }
  // Names are the programme's own from here on.
  talk.reference = {
    ...talk.reference,
    moments: mine.map((moment, n) => ({
      ...moment,
      visit: visits.get(moment.visit) ?? '',
      out: moment.out === null ? null : (cuts.get(moment.out) ?? ''),
      show: real[n]?.show ?? moment.show,
      voice: real[n]?.voice ?? null,
      camera: real[n]?.camera ?? null,
    })),
    added: talk.reference.added.map((ink) =>
      ink.over.kind === 'still' ? { ...ink, over: { kind: 'still', id: asId(stills.get(ink.over.id) ?? ink.over.id) } } : ink,
    ),
  }
  must(
    near(programmeLength(talk.programme), lengthOf(mine), 1e-5),
    () => `it is ${String(programmeLength(talk.programme))} long, not ${String(lengthOf(mine))}`,
  )
  checkVisits(talk)
}

/** The step that a moment shows, read from its recording's cues. */
export function stepShown({ show, step }: Moment, stretches: ReadonlyMap<StretchId, Stretch>): number {
  if (show.ground.kind === 'still') return step ?? 0
  const made = stretches.get(show.ground.id)
  const shown = made?.cues.filter((cue) => cue.kind === 'show' && cue.at <= show.at).at(-1)
  return shown?.kind === 'show' ? shown.step : (made?.opening.step ?? 0)
}

/**
 * Asks a talk's film what is seen and heard at random times, and holds the answers to the reference.
 * @throws Error saying what is not there
 */
function checkScenes(talk: RandomTalk, times: number): void {
  const index = indexFilm(filmOf(talk))
  const starts = timesOf(talk.reference.moments)
  for (let n = 0; n < times; n += 1) {
    const at = somePlayed(talk)
    const moment = at === null ? undefined : talk.reference.moments[at]
    if (at === null || moment === undefined) return
    const scene = sceneAt(index, (starts[at] ?? 0) + moment.takes * INSIDE)
    const where = `at moment ${String(at)}`
    must(
      scene?.slide === moment.slide && scene.step === stepShown(moment, talk.stretches),
      () => `${where} step ${String(scene?.step)} of ${String(scene?.slide)} is seen`,
    )
    const wanted = [...inkAt(talk.reference, at, talk.stretches)].sort().join(' ')
    const seen = (scene?.ink ?? [])
      .map((drawn) => String(drawn.stroke.id))
      .sort()
      .join(' ')
    must(seen === wanted, () => `${where} the ink is [${seen}], not [${wanted}]`)
    must(
      (scene?.voice?.stretch ?? null) === (moment.voice?.stretch ?? null) || moment.voice === null,
      () => `${where} another voice is heard`,
    )
    if (moment.voice !== null && scene?.voice != null)
      must(near(scene.voice.at, moment.voice.at, VOICE_GRAIN), () => `${where} its voice is heard at another time`)
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
