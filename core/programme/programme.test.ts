import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { EMPTY_PROGRAMME, asId } from '@core/model'
import type { Programme } from '@core/model'
import { SLIDES, anyStretches, film, recorded, still, stretch } from '@core/testing'
import {
  append,
  dub,
  pieceLength,
  placeTake,
  programmeLength,
  recordedBySlide,
  replaceFrom,
  retakeVisit,
  versionsOf,
  visitsOf,
  withoutStretches,
} from '.'

const one = asId<'slide'>('one')
const two = asId<'slide'>('two')
const versions = versionsOf(SLIDES)
const programmes = anyStretches.map((stretches): Programme => film(SLIDES, stretches).programme)

describe('pieces of a take', () => {
  it('are as long together as its stretches', () => {
    fc.assert(
      fc.property(anyStretches, (stretches) => {
        expect(programmeLength(film(SLIDES, stretches).programme)).toBe(stretches.reduce((sum, part) => sum + part.length, 0))
      }),
    )
  })

  it('make one visit of a slide that stays up over a pause, and two of one that is shown again', () => {
    const { programme } = film(SLIDES, [
      stretch('a', 1000, one),
      stretch('b', 3000, one, [
        { kind: 'show', at: 1000, slide: two, step: 0 },
        { kind: 'show', at: 1500, slide: two, step: 1 },
        { kind: 'show', at: 2000, slide: one, step: 0 },
      ]),
    ])
    expect(visitsOf(programme).map((visit) => [visit.slide, visit.start, visit.length, visit.pieces])).toEqual([
      [one, 0, 2000, [0, 2]],
      [two, 2000, 1000, [2, 3]],
      [one, 3000, 1000, [3, 4]],
    ])
    expect(recordedBySlide(visitsOf(programme))).toEqual(
      new Map([
        [one, 3000],
        [two, 1000],
      ]),
    )
  })

  it('leave out a slide that another replaced in the same millisecond', () => {
    const { programme } = film(SLIDES, [
      stretch('a', 1000, one, [
        { kind: 'show', at: 400, slide: two, step: 0 },
        { kind: 'show', at: 400, slide: one, step: 0 },
      ]),
    ])
    expect(programme.pieces.length).toBe(1)
  })
})

describe('edits', () => {
  it('append keeps everything and adds at the end', () => {
    fc.assert(
      fc.property(programmes, programmes, (before, added) => {
        const after = append(before, added.pieces, versions)
        expect(after.pieces.slice(0, before.pieces.length)).toEqual(before.pieces)
        expect(programmeLength(after)).toBe(programmeLength(before) + programmeLength(added))
        expect(after.revision).toBe(before.revision)
      }),
    )
  })

  it('replaceFrom keeps exactly what came before and drops what came after', () => {
    fc.assert(
      fc.property(programmes, programmes, fc.double({ min: 0, max: 1.2, noNaN: true }), (before, added, share) => {
        const at = Math.round(programmeLength(before) * share)
        const after = replaceFrom(before, at, added.pieces, versions)
        expect(programmeLength(after)).toBe(Math.min(at, programmeLength(before)) + programmeLength(added))
        const kept = after.pieces.slice(0, after.pieces.length - added.pieces.length)
        for (const [n, piece] of kept.slice(0, -1).entries()) expect(piece).toEqual(before.pieces[n])
      }),
    )
  })

  it('a retake replaces one visit and leaves every other piece as it was', () => {
    fc.assert(
      fc.property(programmes, programmes, fc.nat(), (before, added, which) => {
        const visits = visitsOf(before)
        const visit = visits[which % visits.length]
        if (visit === undefined) return
        const after = retakeVisit(before, visit.id, added.pieces, versions)
        expect(after.pieces).toEqual([...before.pieces.slice(0, visit.pieces[0]), ...added.pieces, ...before.pieces.slice(visit.pieces[1])])
        // A visit that is gone does not take the new recording with it.
        expect(retakeVisit(before, asId('gone'), added.pieces, versions).pieces).toEqual([...before.pieces, ...added.pieces])
      }),
    )
  })

  it('never change the programme they are given', () => {
    const before: Programme = { ...EMPTY_PROGRAMME, pieces: [recorded('a', one, 0, 1000), still('b', two, 500)] }
    const copy = structuredClone(before)
    replaceFrom(before, 300, [], {})
    placeTake(before, { kind: 'append' }, { id: asId('t'), kind: 'full', stretches: [stretch('x', 900, one)] }, SLIDES)
    dub(before, 300, [{ id: asId('d'), length: 700, camera: false }])
    withoutStretches(before, new Set(['s']))
    expect(before).toEqual(copy)
  })

  it('take every piece of a discarded take out and leave the others', () => {
    const programme: Programme = { ...EMPTY_PROGRAMME, pieces: [recorded('a', one, 0, 1000), still('b', two, 500)] }
    expect(withoutStretches(programme, new Set(['s'])).pieces).toEqual([still('b', two, 500)])
  })
})

describe('length of a piece', () => {
  it('is its source over its rate, exactly', () => {
    expect(pieceLength(recorded('a', one, 0, 1000, { num: 27, den: 25 }))).toBeCloseTo(25_000 / 27, 9)
    expect(pieceLength(recorded('a', one, 0, 27_000, { num: 27, den: 25 }))).toBe(25_000)
    expect(pieceLength(still('b', one, 500))).toBe(500)
  })
})

describe('what was said again', () => {
  it('takes the place of the rest of its stretch, and stays one visit with what was kept', () => {
    const { programme } = film(SLIDES, [
      stretch('a', 9000, one, [{ kind: 'show', at: 4000, slide: two, step: 0 }], { kept: 6000 }),
      stretch('b', 3000, two),
    ])
    expect(programme.pieces.map((piece) => (piece.kind === 'recorded' ? [piece.slide, piece.show.from, piece.show.to] : []))).toEqual([
      [one, 0, 4000],
      [two, 4000, 6000],
      [two, 0, 3000],
    ])
    expect(visitsOf(programme).map((visit) => visit.length)).toEqual([4000, 5000])
  })

  it('can leave nothing of a stretch, not even a slide that it turned to later', () => {
    const { programme } = film(SLIDES, [
      stretch('a', 9000, one, [{ kind: 'show', at: 4000, slide: two, step: 0 }], { kept: 0 }),
      stretch('b', 3000, one),
    ])
    expect(programme.pieces.length).toBe(1)
  })
})

describe('a take without a voice', () => {
  it('holds its timings, and nobody is heard', () => {
    const { programme } = film(SLIDES, [stretch('a', 5000, one, [], { voice: false, camera: false })])
    expect(programme.pieces[0]).toMatchObject({ voice: null, camera: null, show: { from: 0, to: 5000 } })
  })
})

describe('a dub', () => {
  const stretches = fc
    .array(fc.record({ length: fc.integer({ min: 1, max: 40_000 }), camera: fc.boolean() }), { maxLength: 3 })
    .map((list) => list.map((one, n) => ({ ...one, id: asId<'stretch'>(`d${String(n)}`) })))
  const shownAt = (programme: Programme, t: number): unknown => {
    let start = 0
    for (const piece of programme.pieces) {
      const length = pieceLength(piece)
      if (t < start + length)
        return piece.kind === 'still' ? [piece.slide, piece.step] : [piece.slide, piece.show.stretch, piece.show.from + t - start]
      start += length
    }
    return null
  }
  const heardAt = (programme: Programme, t: number, what: 'voice' | 'camera'): unknown => {
    let start = 0
    for (const piece of programme.pieces) {
      const length = pieceLength(piece)
      const span = piece.kind === 'still' ? null : piece[what]
      if (t < start + length) return span === null ? null : [span.stretch, span.from + t - start]
      start += length
    }
    return null
  }

  it('changes what is heard from there on, for as long as it lasts, and nothing that is shown', () => {
    fc.assert(
      fc.property(
        programmes,
        stretches,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (before, voices, start, share) => {
          const length = programmeLength(before)
          const at = Math.round(length * start)
          const t = Math.min(length - 1, Math.floor(length * share))
          const after = dub(before, at, voices)
          expect(programmeLength(after)).toBe(length)
          expect(shownAt(after, t)).toEqual(shownAt(before, t))
          let from = at
          const over = voices.find((voice) => {
            const inside = t >= from && t < from + voice.length
            if (!inside) from += voice.length
            return inside
          })
          expect(heardAt(after, t, 'voice')).toEqual(over === undefined ? heardAt(before, t, 'voice') : [over.id, t - from])
          const dubbed = over?.camera === true ? [over.id, t - from] : null
          expect(heardAt(after, t, 'camera')).toEqual(over === undefined ? heardAt(before, t, 'camera') : dubbed)
        },
      ),
      { numRuns: 300 },
    )
  })
})
