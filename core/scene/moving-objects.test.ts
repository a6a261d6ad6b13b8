import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Cue, Drawing, Film, Ms, Slide } from '@core/model'
import { newObject, withDrawnSteps } from '@core/objects'
import { segmentsOf, runsOf } from '@core/plan'
import { applyProgrammeEdit } from '@core/programme'
import { filmForViewers } from '@core/screening'
import { film, slide, stretch } from '@core/testing'
import { indexFilm, sceneAt } from './scene-at'
import { snapshotAt } from './snapshot'

const ferry = newObject(asId('ferry'), 'box', { x: 0.2, y: 0.5 })
const drawing: Drawing = {
  objects: [ferry],
  motions: [0, 1].map((step) => ({
    id: asId(`m${String(step)}`),
    object: ferry.id,
    step,
    start: 'step',
    delay: step * 500,
    duration: 2000,
    ease: 'even',
    does: { kind: 'path', points: [{ x: 0.2, y: 0 }], line: 'straight', turns: false },
  })),
  starts: [],
  theme: 'paper',
}
const drawn: Slide = withDrawnSteps(slide('drawn', 1, { drawing }))
const other = slide('other')
const show = (at: Ms, id: string, step: number): Cue => ({ kind: 'show', at, slide: asId(id), step })
const placeIn = (talk: Film, t: Ms): number | undefined => {
  const scene = sceneAt(indexFilm(talk), t)
  return scene?.objects[0] && Number(scene.objects[0].at.x.toFixed(6))
}
const still = { camera: false, voice: false } as const

describe('what is drawn on a slide, in a film', () => {
  const talk = film(
    [drawn, other],
    [stretch('s', 10_000, other.id, [show(1000, 'drawn', 0), show(4000, 'drawn', 1), show(8000, 'drawn', 0)], still)],
  )

  it('moves as the presenter comes to its step, and not as they come back to it', () => {
    expect([1000, 2000, 3500].map((t) => placeIn(talk, t))).toEqual([0.2, 0.3, 0.4])
    expect([4000, 4500, 5500, 7000].map((t) => placeIn(talk, t))).toEqual([0.4, 0.4, 0.5, 0.6])
    expect(placeIn(talk, 8100)).toBe(0.4)
  })

  it('is made still where nothing of it moves, and drawn where something does', () => {
    const index = indexFilm(talk)
    const kinds = segmentsOf(index, 30).map(({ kind, firstFrame, frames }) => [kind, firstFrame, firstFrame + frames])
    expect(kinds).toEqual([
      ['still', 0, 30],
      ['moving', 30, 90],
      ['still', 90, 120],
      // Until it begins to move there is too little to be made by itself.
      ['still', 120, 135],
      ['moving', 135, 195],
      ['still', 195, 240],
      ['still', 240, 300],
    ])
    const [, moving] = segmentsOf(index, 30)
    expect(moving && runsOf(index, moving, 30)).toHaveLength(60)
  })

  it('goes on in the next stretch where it was when the one before ended', () => {
    const first = stretch('a', 2000, other.id, [show(1000, 'drawn', 0)], still)
    const opening = snapshotAt(first, 2000)
    expect(opening.moved).toBe(1000)
    const resumed = film([drawn, other], [first, stretch('b', 3000, drawn.id, [], { ...still, opening })])
    expect([1999, 2000, 2500, 3000, 4000].map((t) => placeIn(resumed, t))).toEqual([0.2999, 0.3, 0.35, 0.4, 0.4])
  })

  it('is where it was recorded after a cut in the middle of its way, also for those who watch', () => {
    const cut = { ...talk, programme: applyProgrammeEdit(talk.programme, { kind: 'cut', parts: [{ from: 1500, to: 2000 }] }) }
    expect([1000, 1499, 1500, 1600].map((t) => placeIn(cut, t))).toEqual([0.2, 0.2499, 0.3, 0.31])
    const index = indexFilm(cut)
    const watched = indexFilm(filmForViewers(index))
    for (let t = 0; t < index.length; t += 137) {
      const [own, theirs] = [sceneAt(index, t), sceneAt(watched, t)]
      expect(theirs?.objects.map(({ at }) => [at.x.toFixed(6), at.y.toFixed(6)])).toEqual(
        own?.objects.map(({ at }) => [at.x.toFixed(6), at.y.toFixed(6)]),
      )
    }
  })
})
