import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Film, Ms, Programme } from '@core/model'
import { indexFilm, sceneAt } from '@core/scene'
import { SLIDES, anyStretches, film } from '@core/testing'
import { cut, divide, pieceStarts, programmeLength, reopen, seamsOf } from '.'

const films = anyStretches.map((stretches) => film(SLIDES, stretches))
const shares = fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }))

/** Two times of a programme, in order, that leave something of it. */
function spanOf(programme: Programme, [a, b]: readonly [number, number]): readonly [Ms, Ms] | null {
  const length = programmeLength(programme)
  const [from, to] = [Math.round(Math.min(a, b) * length), Math.round(Math.max(a, b) * length)]
  return to <= from || (from === 0 && to === length) ? null : [from, to]
}
const sceneOf = (one: Film, programme: Programme, at: Ms) => sceneAt(indexFilm({ ...one, programme }), at)

describe('a cut', () => {
  it('shortens the talk by what lies between, and shows the same before and after it', () => {
    fc.assert(
      fc.property(films, shares, fc.double({ min: 0, max: 0.999, noNaN: true }), (one, between, place) => {
        const span = spanOf(one.programme, between)
        if (span === null) return
        const [from, to] = span
        const after = cut(one.programme, from, to)
        expect(programmeLength(after)).toBe(programmeLength(one.programme) - (to - from))
        expect(seamsOf(after).map(({ at, length }) => [at, length])).toEqual([[from, to - from]])
        const at = Math.floor(place * programmeLength(after))
        // A slide that comes in over another may come from elsewhere now: what is heard, and drawn on it, is the same.
        const [now, before] = [sceneOf(one, after, at), sceneOf(one, one.programme, at < from ? at : at + to - from)]
        expect(now && { ...now, transition: null, stage: null, inset: now.inset?.at }).toEqual(
          before && { ...before, transition: null, stage: null, inset: before.inset?.at },
        )
      }),
      { numRuns: 200 },
    )
  })

  it('opened again is as it was, piece for piece', () => {
    fc.assert(
      fc.property(films, shares, ({ programme }, between) => {
        const span = spanOf(programme, between)
        if (span === null) return
        const after = cut(programme, ...span)
        const [seam] = seamsOf(after)
        if (seam === undefined) throw new Error('no seam')
        const back = reopen(after, seam.id)
        expect(back.pieces).toEqual(programme.pieces)
        expect(seamsOf(back)).toEqual([])
      }),
    )
  })

  it('of many can be opened in any order, and all of them opened leave the talk as it was', () => {
    fc.assert(
      fc.property(
        films,
        fc.array(shares, { minLength: 1, maxLength: 6 }),
        fc.array(fc.nat(), { minLength: 12, maxLength: 12 }),
        ({ programme }, cuts, order) => {
          let now = programme
          for (const between of cuts) {
            const span = spanOf(now, between)
            if (span !== null) now = cut(now, ...span)
          }
          for (const which of [...order, ...order]) {
            const seams = seamsOf(now)
            const seam = seams[which % Math.max(1, seams.length)]
            if (seam === undefined) break
            const before = programmeLength(now)
            now = reopen(now, seam.id)
            const all = seams.filter(({ id }) => id === seam.id).reduce((sum, { length }) => sum + length, 0)
            expect(programmeLength(now)).toBe(before + all)
          }
          for (let [seam] = seamsOf(now); seam !== undefined; [seam] = seamsOf(now)) now = reopen(now, seam.id)
          expect(now.pieces).toEqual(programme.pieces)
        },
      ),
      { numRuns: 300 },
    )
  })

  it('is refused when nothing lies between, and when nothing would be left', () => {
    fc.assert(
      fc.property(films, ({ programme }) => {
        expect(() => cut(programme, 10, 10)).toThrow('Nothing lies between')
        expect(() => cut(programme, 0, programmeLength(programme))).toThrow('cut everything')
      }),
    )
  })
})

describe('dividing a piece', () => {
  it('puts a time between two pieces and changes nothing that is seen or heard', () => {
    fc.assert(
      fc.property(films, fc.double({ min: 0, max: 1, noNaN: true }), (one, share) => {
        const at = Math.round(programmeLength(one.programme) * share)
        const {
          pieces,
          places: [place = 0],
        } = divide(one.programme, [at])
        const divided = { ...one.programme, pieces }
        expect(pieceStarts(divided)[place]).toBe(at)
        expect(programmeLength(divided)).toBe(programmeLength(one.programme))
        for (const time of [0, at - 1, at, at + 1].filter((t) => t >= 0 && t < programmeLength(one.programme))) {
          expect(sceneOf(one, divided, time)?.voice).toEqual(sceneOf(one, one.programme, time)?.voice)
        }
      }),
    )
  })
})
