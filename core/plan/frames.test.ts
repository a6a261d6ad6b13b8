import { describe, expect, it } from 'vitest'
import { USUAL_RECIPE } from '@core/model'
import type { Film } from '@core/model'
import { applyProgrammeEdit, intoSpan } from '@core/programme'
import { indexFilm, sceneAt } from '@core/scene'
import type { FilmIndex, Scene } from '@core/scene'
import { changeAtRandom, checkAgainstReference, film, filmOf, randomTalk, slide, stepShown, stretch, timesOf } from '@core/testing'
import type { Moment, RandomTalk } from '@core/testing'
import { renderPlan, runsOf, segmentsOf, timeOfFrame } from '.'
import type { Segment } from '.'

const FPS = 30
const HALF_FRAME = 500 / FPS

/** The scene of every frame that is handed to the encoder, and when its sample lies in the talk, in ms. */
function framesOf(index: FilmIndex): readonly { readonly scene: Scene; readonly at: number; readonly segment: Segment }[] {
  return segmentsOf(index, FPS).flatMap((segment) => {
    const scenes = runsOf(index, segment, FPS).flatMap((run) => Array.from({ length: run.frames }, () => run.scene))
    const start = (index.starts[segment.piece] ?? 0) + segment.from
    return Array.from({ length: segment.frames }, (_, n) => ({ scene: scenes[n] as Scene, at: start + timeOfFrame(n, FPS), segment }))
  })
}

const inkOf = (scene: Scene | null): string =>
  (scene?.ink ?? [])
    .map(
      ({ stroke, elapsed }) =>
        `${stroke.id}:${String(elapsed === null ? stroke.points.length : stroke.points.filter((point) => point.dt <= elapsed).length)}`,
    )
    .join(' ')

/** A place or share as far as it can be seen. */
const seen = (value: number): string => value.toFixed(5)

/** What is seen apart from where the face stands. */
const pictureOf = (scene: Scene | null): string =>
  JSON.stringify([
    scene?.slide,
    scene?.step,
    scene?.shown === null,
    scene?.spot == null ? null : [seen(scene.spot.x), seen(scene.spot.y)],
    inkOf(scene),
    scene?.transition == null ? null : seen(scene.transition.progress),
  ])

/** The moment of the reference that is played at a time. */
function momentAt({ reference: { moments } }: RandomTalk, starts: readonly number[], at: number): Moment | undefined {
  let found = starts.findLastIndex((start) => start <= at + 1e-5)
  while (found >= 0 && moments[found]?.out !== null) found -= 1
  return moments[found]
}

/** Frames at two a second, and one to either side of every cue that is seen. */
function framesToSee(made: Film, index: FilmIndex, frames: number): ReadonlySet<number> {
  const wanted = new Set<number>()
  for (let frame = 0; frame < frames; frame += FPS / 2) wanted.add(frame)
  for (const [n, piece] of made.programme.pieces.entries()) {
    if (piece.kind === 'still' || piece.out !== undefined) continue
    const start = index.starts[n] ?? 0
    for (const cue of made.stretches.get(piece.show.stretch)?.cues ?? []) {
      if (cue.at < piece.show.from || cue.at > piece.show.to) continue
      const frame = Math.round(((start + intoSpan(piece.show, cue.at)) * FPS) / 1000)
      for (const beside of [frame - 1, frame, frame + 1]) if (beside >= 0 && beside < frames) wanted.add(beside)
    }
  }
  return wanted
}

describe('the frames that are handed to the encoder', () => {
  it('of 100 random edited talks show what Review shows at their time, and the step that their recording shows', () => {
    for (let seed = 1; seed <= 100; seed += 1) {
      const talk = randomTalk(seed, { least: 600, most: 4000 })
      for (let n = 0; n < 10; n += 1) {
        changeAtRandom(talk)
        checkAgainstReference(talk)
      }
      const made = filmOf(talk)
      const index = indexFilm(made)
      const frames = framesOf(index)
      const starts = timesOf(talk.reference.moments)
      expect(frames.length, `seed ${String(seed)}`).toBe(renderPlan(index, USUAL_RECIPE).frames)
      for (const frame of framesToSee(made, index, frames.length)) {
        const { scene, at } = frames[frame] as (typeof frames)[number]
        const where = `seed ${String(seed)}, frame ${String(frame)}`
        // Its sample lies within half a frame of where it is shown.
        expect(Math.abs(at - timeOfFrame(frame, FPS)), where).toBeLessThanOrEqual(HALF_FRAME + 1e-6)
        expect(pictureOf(scene), where).toBe(pictureOf(sceneAt(index, at)))
        const moment = momentAt(talk, starts, at)
        if (moment !== undefined) expect([scene.slide, scene.step], where).toEqual([moment.slide, stepShown(moment, talk.stretches)])
      }
    }
  }, 120_000)

  it('of a still part are one picture throughout, at every tempo', () => {
    const steps = slide('one', 40)
    const cues = Array.from({ length: 39 }, (_, n) => ({ kind: 'show' as const, at: 1000 + n * 1013, slide: steps.id, step: n + 1 }))
    const plain = film([steps], [stretch('s', 45_000, steps.id, cues, { camera: false })])
    for (let num = 90; num <= 110; num += 1) {
      const made: Film = {
        ...plain,
        programme: applyProgrammeEdit(plain.programme, { kind: 'tempo', visits: [], rate: { num, den: 100 } }),
      }
      const index = indexFilm(made)
      const stills = segmentsOf(index, FPS).filter(({ kind }) => kind === 'still')
      expect(stills).toHaveLength(40)
      for (const [n, segment] of stills.entries()) {
        const runs = runsOf(index, segment, FPS)
        expect(
          runs.map(({ scene }) => scene.step),
          `tempo ${String(num)}`,
        ).toEqual([n])
        expect(runs[0]?.frames).toBe(segment.drawn)
      }
    }
  })

  it("show the pointer's spot until its path ends, and no longer", () => {
    const one = slide('one', 2)
    const made = film(
      [one],
      [
        stretch(
          's',
          60_000,
          one.id,
          [
            {
              kind: 'point',
              at: 5000,
              path: [
                { dt: 0, x: 0.1, y: 0.1 },
                { dt: 1000, x: 0.5, y: 0.5 },
              ],
            },
          ],
          { camera: false },
        ),
      ],
    )
    const index = indexFilm(made)
    expect(segmentsOf(index, FPS).map(({ kind, frames }) => [kind, frames])).toEqual([
      ['still', 150],
      ['moving', 30],
      ['still', 1620],
    ])
    expect(framesOf(index).filter(({ scene }) => scene.spot !== null)).toHaveLength(30)
    expect(sceneAt(index, 5999)?.spot).not.toBeNull()
    expect(sceneAt(index, 6000)?.spot).toBeNull()
  })
})
