import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EMPTY_PROGRAMME, asId } from '@core/model'
import type { Programme } from '@core/model'
import { SLIDES, anyStretches, film, recorded, still, stretch } from '@core/testing'
import { append, pieceLength, placeTake, programmeLength, recordedBySlide, replaceFrom, versionsOf, visitsOf, withoutStretches } from '.'

const one = asId<'slide'>('one')
const two = asId<'slide'>('two')
const versions = versionsOf(SLIDES)
const programmes = anyStretches.map((stretches): Programme => film(SLIDES, stretches).programme)

describe('pieces of a take', () => {
  it('are as long together as its stretches', () => {
    fc.assert(fc.property(anyStretches, (stretches) => {
      expect(programmeLength(film(SLIDES, stretches).programme)).toBe(stretches.reduce((sum, part) => sum + part.length, 0))
    }))
  })

  it('make one visit of a slide that stays up over a pause, and two of one that is shown again', () => {
    const { programme } = film(SLIDES, [
      stretch('a', 1000, one), stretch('b', 3000, one, [{ kind: 'show', at: 1000, slide: two, step: 0 }, { kind: 'show', at: 1500, slide: two, step: 1 }, { kind: 'show', at: 2000, slide: one, step: 0 }]),
    ])
    expect(visitsOf(programme).map((visit) => [visit.slide, visit.start, visit.length, visit.pieces])).toEqual([
      [one, 0, 2000, [0, 2]], [two, 2000, 1000, [2, 3]], [one, 3000, 1000, [3, 4]],
    ])
    expect(recordedBySlide(visitsOf(programme))).toEqual(new Map([[one, 3000], [two, 1000]]))
  })

  it('leave out a slide that another replaced in the same millisecond', () => {
    const { programme } = film(SLIDES, [stretch('a', 1000, one, [{ kind: 'show', at: 400, slide: two, step: 0 }, { kind: 'show', at: 400, slide: one, step: 0 }])])
    expect(programme.pieces.length).toBe(1)
  })
})

describe('edits', () => {
  it('append keeps everything and adds at the end', () => {
    fc.assert(fc.property(programmes, programmes, (before, added) => {
      const after = append(before, added.pieces, versions)
      expect(after.pieces.slice(0, before.pieces.length)).toEqual(before.pieces)
      expect(programmeLength(after)).toBe(programmeLength(before) + programmeLength(added))
      expect(after.revision).toBe(before.revision + 1)
    }))
  })

  it('replaceFrom keeps exactly what came before and drops what came after', () => {
    fc.assert(fc.property(programmes, programmes, fc.double({ min: 0, max: 1.2, noNaN: true }), (before, added, share) => {
      const at = Math.round(programmeLength(before) * share)
      const after = replaceFrom(before, at, added.pieces, versions)
      expect(programmeLength(after)).toBe(Math.min(at, programmeLength(before)) + programmeLength(added))
      const kept = after.pieces.slice(0, after.pieces.length - added.pieces.length)
      for (const [n, piece] of kept.slice(0, -1).entries()) expect(piece).toEqual(before.pieces[n])
    }))
  })

  it('never change the programme they are given', () => {
    const before: Programme = { ...EMPTY_PROGRAMME, pieces: [recorded('a', one, 0, 1000), still('b', two, 500)] }
    const copy = structuredClone(before)
    replaceFrom(before, 300, [], {})
    placeTake(before, { kind: 'append' }, [still('c', one, 9)], versions)
    withoutStretches(before, new Set(['s']))
    expect(before).toEqual(copy)
  })

  it('take every piece of a discarded take out and leave the others', () => {
    const programme: Programme = { ...EMPTY_PROGRAMME, pieces: [recorded('a', one, 0, 1000), still('b', two, 500)] }
    expect(withoutStretches(programme, new Set(['s'])).pieces).toEqual([still('b', two, 500)])
  })
})

describe('length of a piece', () => {
  it('is its source over its rate, rounded once', () => {
    expect(pieceLength(recorded('a', one, 0, 1000, { num: 27, den: 25 }))).toBe(926)
    expect(pieceLength(still('b', one, 500))).toBe(500)
  })
})
