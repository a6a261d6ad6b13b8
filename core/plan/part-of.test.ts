import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ANYBODY, plannedTime } from '@core/pace'
import { programmeLength } from '@core/programme'
import { indexFilm, sceneAt } from '@core/scene'
import { SLIDES, anyStretches, film, slide } from '@core/testing'
import { partOf, slideShow, slidesSeenIn } from '.'

const films = anyStretches.map((stretches) => film(SLIDES, stretches))

describe('a part of a talk', () => {
  it('from one time to another is as long as that, and every moment of it is as in the whole', () => {
    fc.assert(
      fc.property(
        films,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (one, a, b, place) => {
          const length = programmeLength(one.programme)
          const [from, to] = [Math.round(Math.min(a, b) * length), Math.round(Math.max(a, b) * length)]
          if (to <= from) return
          const part = partOf(one.programme, { kind: 'range', from, to })
          expect(programmeLength(part)).toBe(to - from)
          const at = Math.floor(place * (to - from))
          const [now, whole] = [sceneAt(indexFilm({ ...one, programme: part }), at), sceneAt(indexFilm(one), from + at)]
          // A slide that comes in does so over what is before it; at the beginning of a part there is nothing.
          expect(now && { ...now, transition: null, revealProgress: 1, stage: null, inset: now.inset?.at }).toEqual(
            whole && { ...whole, transition: null, revealProgress: 1, stage: null, inset: whole.inset?.at },
          )
        },
      ),
      { numRuns: 200 },
    )
  })

  it('of some slides shows these and no others, as long as they are up', () => {
    fc.assert(
      fc.property(films, (one) => {
        const shown = [...new Set(one.programme.pieces.map((piece) => piece.slide))]
        const parts = shown.map((id) => partOf(one.programme, { kind: 'slides', slides: [id] }))
        expect(parts.reduce((sum, part) => sum + programmeLength(part), 0)).toBe(programmeLength(one.programme))
        for (const [n, part] of parts.entries()) expect(new Set(part.pieces.map((piece) => piece.slide))).toEqual(new Set([shown[n]]))
      }),
    )
  })

  it('of slides between two times holds what they show there, and the slides that are seen there are those', () => {
    fc.assert(
      fc.property(films, fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (one, a, b) => {
        const length = programmeLength(one.programme)
        const within = { from: Math.round(Math.min(a, b) * length), to: Math.round(Math.max(a, b) * length) }
        if (within.to - within.from < 200) return
        const seen = slidesSeenIn(one.programme, { kind: 'range', ...within })
        const lengths = seen.map((id) => programmeLength(partOf(one.programme, { kind: 'slides', slides: [id], within })))
        expect(lengths.every((each) => each >= 40)).toBe(true)
        // What is not seen is less than that of each slide.
        expect(within.to - within.from - lengths.reduce((sum, each) => sum + each, 0)).toBeLessThan(40 * SLIDES.length)
      }),
    )
  })

  it('in which nothing lies is refused', () => {
    fc.assert(
      fc.property(films, ({ programme }) => {
        const length = programmeLength(programme)
        expect(() => partOf(programme, { kind: 'range', from: length, to: length + 1000 })).toThrow('Nothing of the talk')
        expect(() => partOf(programme, { kind: 'slides', slides: ['none' as never] })).toThrow('None of these slides')
      }),
    )
  })
})

describe('a slide show', () => {
  it('shows every slide but those that are skipped for its planned time, its steps one after the other', () => {
    const [first, second] = SLIDES
    if (first === undefined || second === undefined) throw new Error('two slides')
    const slides = [
      { ...first, planned: 9000 },
      { ...slide('skipped'), skip: true },
      { ...second, planned: 10_000 },
    ]
    const show = slideShow({ width: 16, height: 9 }, slides, ANYBODY)
    expect(programmeLength(show.programme)).toBe(slides.filter((one) => !one.skip).reduce((sum, one) => sum + plannedTime(one, ANYBODY), 0))
    const index = indexFilm(show)
    expect([0, 8999, 9000, 12_500, 16_000].map((at) => [sceneAt(index, at)?.slide, sceneAt(index, at)?.step])).toEqual([
      [first.id, 0],
      [first.id, 0],
      [second.id, 0],
      [second.id, 1],
      [second.id, 2],
    ])
  })

  it('without any slide is refused', () => {
    expect(() =>
      slideShow(
        { width: 16, height: 9 },
        SLIDES.map((one) => ({ ...one, skip: true })),
        ANYBODY,
      ),
    ).toThrow('no slide')
  })
})
