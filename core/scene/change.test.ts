import { describe, expect, it } from 'vitest'
import { emptyComposition, recomposed } from '@core/compose'
import { PLAIN_FRAMING, asId } from '@core/model'
import type { Slide } from '@core/model'
import { film, slide, stretch } from '@core/testing'
import { EASE, REVEAL, TRANSITION, changesAt, indexFilm, sceneAt } from '.'

const one = asId<'slide'>('one')
const two = asId<'slide'>('two')
const left = { ...PLAIN_FRAMING, rect: { x: 0, y: 0.6, w: 0.2, h: 0.3 } }
const right = { ...PLAIN_FRAMING, rect: { x: 0.8, y: 0.6, w: 0.2, h: 0.3 } }
const talk = (second: Partial<Slide>, first: Partial<Slide> = {}) =>
  indexFilm(
    film(
      [slide('one', 1, { framing: left, ...first }), slide('two', 1, { framing: left, ...second })],
      [stretch('s', 10_000, one, [{ kind: 'show', at: 4000, slide: two, step: 0 }])],
    ),
  )

describe('from slide to slide', () => {
  it('a slide that fades comes in over what was there last, and is alone after half a second', () => {
    const index = talk({ transition: 'fade' })
    expect(sceneAt(index, 3999)?.transition).toBeNull()
    const middle = sceneAt(index, 4000 + TRANSITION / 2)
    expect(middle?.transition).toMatchObject({ kind: 'fade', progress: 0.5 })
    expect(middle?.transition?.from.shown).toBe(index.film.slides.get(one)?.steps[0])
    expect(middle?.shown).toBe(index.film.slides.get(two)?.steps[0])
    expect(sceneAt(index, 4000 + TRANSITION)?.transition).toBeNull()
  })

  it('a slide that cuts is there at once', () => {
    expect(sceneAt(talk({}), 4000)?.transition).toBeNull()
    expect(changesAt(talk({}), 1)).toEqual({ face: 0, slide: 0 })
  })

  it('the face eases from one place to the other instead of jumping', () => {
    const index = talk({ framing: right })
    const x = (at: number) => sceneAt(index, at)?.inset?.framing.rect.x ?? -1
    expect(x(3999)).toBe(0)
    expect(x(4000)).toBeCloseTo(0)
    expect(x(4000 + EASE / 2)).toBeCloseTo(0.4)
    expect(x(4000 + EASE)).toBeCloseTo(0.8)
    for (let at = 4000; at < 4000 + EASE; at += 20) expect(Math.abs(x(at + 20) - x(at))).toBeLessThan(0.08)
  })

  it('the slide makes room for a face beside it as the face comes', () => {
    const index = talk({ framing: { ...left, placing: 'beside' } })
    const width = (at: number) => sceneAt(index, at)?.stage.w ?? 0
    expect(width(3999)).toBe(1)
    expect(width(4000 + EASE / 2)).toBeLessThan(1)
    expect(width(4000 + EASE)).toBeCloseTo(0.7)
  })

  it('nothing eases within a visit, nor where the face was not seen before', () => {
    const index = talk({ framing: right }, { framing: { ...left, off: true } })
    expect(sceneAt(index, 4100)?.inset?.framing).toEqual(right)
    expect(changesAt(index, 1).face).toBe(0)
  })
})

describe('points that come one by one', () => {
  const points = (reveal: 'appear' | 'fade') =>
    recomposed(
      { ...slide('one'), composition: { ...emptyComposition('points', 'paper'), body: '- a\n- b', reveal } },
      { width: 16, height: 9 },
    )
  const revealProgress = (reveal: 'appear' | 'fade', at: number) =>
    sceneAt(
      indexFilm(
        film(
          [points(reveal)],
          [
            stretch('s', 5000, one, [
              { kind: 'show', at: 1000, slide: one, step: 1 },
              { kind: 'show', at: 3000, slide: one, step: 0 },
            ]),
          ],
        ),
      ),
      at,
    )?.revealProgress

  it('come in for a third of a second when they fade, and are there at once when they appear', () => {
    expect([revealProgress('fade', 999), revealProgress('fade', 1000 + REVEAL / 2), revealProgress('fade', 1000 + REVEAL)]).toEqual([
      1, 0.5, 1,
    ])
    expect(revealProgress('appear', 1000 + REVEAL / 2)).toBe(1)
  })

  it('do not come in again when the presenter goes back', () => {
    expect(revealProgress('fade', 3000 + REVEAL / 2)).toBe(1)
  })
})

describe('steps of a file', () => {
  const fading = {
    ...slide('one', 3),
    steps: slide('one', 3).steps.map((step, n) => (n === 1 ? { ...step, reveal: 'fade' as const } : step)),
  }
  const at = (time: number) =>
    sceneAt(
      indexFilm(
        film(
          [fading],
          [
            stretch('s', 5000, one, [
              { kind: 'show', at: 1000, slide: one, step: 1 },
              { kind: 'show', at: 3000, slide: one, step: 2 },
              { kind: 'show', at: 4000, slide: one, step: 1 },
            ]),
          ],
        ),
      ),
      time,
    )

  it('fade over the step before where their file says so, and cut where it does not', () => {
    expect(at(1000 + REVEAL / 2)).toMatchObject({ revealProgress: 0.5, revealFrom: fading.steps[0], shown: fading.steps[1] })
    expect(at(1000 + REVEAL)).toMatchObject({ revealProgress: 1, shown: fading.steps[1] })
    expect(at(1000 + REVEAL)?.revealFrom).toBeUndefined()
    expect(at(3000 + REVEAL / 2)).toMatchObject({ revealProgress: 1, shown: fading.steps[2] })
    expect(at(4000 + REVEAL / 2)).toMatchObject({ revealProgress: 1, shown: fading.steps[1] })
  })
})
