import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AS_RECORDED, EMPTY_PROGRAMME, asId } from '@core/model'
import type { Bed, Piece } from '@core/model'
import { indexFilm } from '@core/scene'
import { bed, film, slide, stretch } from '@core/testing'
import { bedParts, fadedAt } from '.'

const one = slide('one')
const a = stretch('a', 100_000, one.id, [], { loudness: -22 })
const span = { stretch: a.id, from: 0, to: 100_000, rate: AS_RECORDED }
const piece: Piece = { kind: 'recorded', visit: asId('v'), slide: one.id, show: span, voice: span, camera: null }
const base = film([one], [a])
/** Of a file of which 16 s pass before it begins again. */
const repeated = (more: Partial<Bed>): Bed => bed({ media: { ...bed().media, length: 16_900, loudness: -18 }, ...more })
const partsOf = (more: Partial<Bed>) =>
  bedParts(indexFilm({ ...base, programme: { ...EMPTY_PROGRAMME, pieces: [piece], beds: [repeated(more)] } }))

describe('music that is repeated', () => {
  it('begins again while its end is still heard, until it is over', () => {
    const parts = partsOf({ length: 40_000 })
    expect(parts.map(({ at, length, from }) => [at, length, from])).toEqual([
      [0, 16_900, 0],
      [16_000, 16_900, 0],
      [32_000, 8000, 0],
    ])
  })

  it('is as strong at every moment as without a seam, but where it comes and goes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 5000, max: 100_000 }), fc.double({ min: 0, max: 1, noNaN: true }), (length, share) => {
        const at = 1000 + (length - 3000) * share
        const power = partsOf({ length })
          .filter((part) => at >= part.at && at < part.at + part.length)
          .reduce((sum, part) => sum + fadedAt(part.music?.fades ?? [], at) ** 2, 0)
        expect(power).toBeCloseTo(1, 3)
      }),
    )
  })

  it('comes from nothing and goes to nothing', () => {
    const parts = partsOf({ length: 40_000 })
    const at = (t: number) =>
      Math.max(...parts.filter((part) => t >= part.at && t <= part.at + part.length).map((part) => fadedAt(part.music?.fades ?? [], t)))
    expect([at(0), at(40_000)].map((value) => Math.round(value * 1000))).toEqual([0, 0])
    expect(at(500)).toBeCloseTo(Math.SQRT1_2, 3)
    expect(at(39_000)).toBeCloseTo(Math.SQRT1_2, 3)
  })
})

describe('music', () => {
  it('is so much softer than speech as was said, however loud its file is', () => {
    expect(partsOf({})[0]).toMatchObject({ gain: -22 + 18 - 9, voice: -22 })
  })

  it('ends where its file does when it is not repeated', () => {
    expect(partsOf({ repeat: false, from: 1900 }).map(({ at, length, from, to }) => [at, length, from, to])).toEqual([
      [0, 15_000, 1900, 16_900],
    ])
  })

  it('that began before a part of a talk goes on in it where it would have been', () => {
    const parts = partsOf({ offset: -20_000, length: 30_000 })
    expect(parts.map(({ at, length }) => [at, length])).toEqual([[-4000, 14_000]])
  })
})
