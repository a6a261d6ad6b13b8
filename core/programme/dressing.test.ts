import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AS_RECORDED, EMPTY_PROGRAMME, UNTREATED, asId } from '@core/model'
import type { Bed, CardOverlay, Piece, Programme, VisitId } from '@core/model'
import { bed, slide, still, stretch } from '@core/testing'
import { applyProgrammeEdit, backdropIn, dressedFrom, hungLike, merged, placedBeds, placedOverlays, retakeVisit, treatmentOf } from '.'

const [one, two] = [slide('one'), slide('two')]
const a = stretch('a', 60_000, one.id)
const visit = (name: string): VisitId => asId(name)
function piece(name: string, on: typeof one, from: number, to: number): Piece {
  const span = { stretch: a.id, from, to, rate: AS_RECORDED }
  return { kind: 'recorded', visit: visit(name), slide: on.id, show: span, voice: span, camera: null }
}
const talk: Programme = {
  ...EMPTY_PROGRAMME,
  pieces: [piece('v1', one, 0, 4000), piece('v2', two, 4000, 10_000), piece('v3', one, 10_000, 12_000)],
}
const card = (on: string, offset: number, length = 2000): CardOverlay => ({
  kind: 'card',
  id: asId('card'),
  visit: visit(on),
  offset,
  length,
  theme: 'paper',
  heading: 'Tides',
  body: '',
})
const under = (on: string, offset: number, length: number | null): Bed => bed({ visit: visit(on), offset, length })
const over = (programme: Programme) => placedOverlays(programme).map(({ from, to }) => [from, to])

describe('what lies over a talk', () => {
  const dressed = applyProgrammeEdit(talk, { kind: 'overlay', overlay: card('v2', 1000) })

  it('is put there, changed in its place, and taken off without a trace', () => {
    expect(over(dressed)).toEqual([[5000, 7000]])
    const changed = applyProgrammeEdit(dressed, { kind: 'overlay', overlay: { ...card('v2', 1000), heading: 'Low water' } })
    expect(changed.overlays).toHaveLength(1)
    expect(applyProgrammeEdit(changed, { kind: 'bare', ids: [asId('card')] })).toEqual(talk)
  })

  it('goes where its visit goes, and stays on it when what comes before is cut', () => {
    expect(over(applyProgrammeEdit(dressed, { kind: 'move', visit: visit('v2'), before: visit('v1') }))).toEqual([[1000, 3000]])
    expect(over(applyProgrammeEdit(dressed, { kind: 'cut', parts: [{ from: 1000, to: 3000 }] }))).toEqual([[3000, 5000]])
    expect(over(applyProgrammeEdit(dressed, { kind: 'drop', visits: [visit('v2')] }))).toEqual([])
  })

  it('stays with a visit that is said again, and with its slide when all is', () => {
    const again = retakeVisit(dressed, visit('v2'), [piece('new', two, 20_000, 23_000)], {})
    expect(over(again)).toEqual([[5000, 7000]])
    const afresh = { ...talk, pieces: [piece('x', two, 0, 3000), piece('y', one, 3000, 6000)] }
    expect(over(hungLike({ ...afresh, overlays: dressed.overlays ?? [] }, dressed))).toEqual([[1000, 3000]])
  })

  it('lies in a part of the talk where it lies in the whole', () => {
    const both = applyProgrammeEdit(dressed, { kind: 'bed', bed: under('v1', 500, 8000) })
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 11_000 }), fc.integer({ min: 100, max: 12_000 }), (from, length) => {
        const to = Math.min(12_000, from + length)
        const pieces = both.pieces.flatMap((whole): Piece[] => {
          if (whole.kind === 'still') return []
          const [begin, end] = [Math.max(whole.show.from, from), Math.min(whole.show.to, to)]
          const span = { ...whole.show, from: begin, to: end }
          return end <= begin ? [] : [{ ...whole, show: span, voice: span }]
        })
        const part = dressedFrom(both, from, pieces)
        for (const [found, whole] of [
          [placedOverlays(part), placedOverlays(both)],
          [placedBeds(part), placedBeds(both)],
        ] as const) {
          const expected = whole.filter((each) => each.from < to && each.to > from)
          expect(found.map((each) => each.from)).toEqual(expected.map((each) => each.from - from))
          expect(found.map((each) => each.to)).toEqual(expected.map((each) => Math.min(each.to, to) - from))
        }
      }),
    )
  })

  it('is kept on both pages that change different visits, and refused where both change one', () => {
    const mine = applyProgrammeEdit(talk, { kind: 'overlay', overlay: card('v2', 0) })
    const theirs = applyProgrammeEdit(talk, { kind: 'bed', bed: under('v1', 0, null) })
    const both = merged(talk, mine, theirs)
    expect([both.overlays?.length, both.beds?.length]).toEqual([1, 1])
    const other = applyProgrammeEdit(talk, { kind: 'overlay', overlay: { ...card('v2', 300), id: asId('other') } })
    expect(() => merged(talk, mine, other)).toThrow('changed elsewhere')
    // Taking one back leaves the other.
    expect(merged(mine, talk, both)).toEqual({ ...theirs, revision: both.revision })
  })

  it('is refused where there is nothing of it to be heard or seen', () => {
    expect(() => applyProgrammeEdit(talk, { kind: 'bed', bed: { ...under('v1', 0, null), from: 19_900 } })).toThrow('hardly anything')
    expect(() => applyProgrammeEdit(talk, { kind: 'overlay', overlay: card('v1', 0, 100) })).toThrow('half a second')
    expect(() => applyProgrammeEdit(talk, { kind: 'overlay', overlay: card('gone', 0) })).toThrow('not there any more')
  })
})

describe('a voice that is treated', () => {
  const treatment = { ...UNTREATED, noise: 'learned' } as const
  const [first] = talk.pieces
  const of = (programme: Programme) => (first?.kind === 'recorded' ? treatmentOf(programme, first) : null)

  it('is so wherever its recording is heard, but in visits for which something else was said', () => {
    const treated = applyProgrammeEdit(talk, { kind: 'voice', stretches: [a.id], visits: [], treatment })
    expect(of(treated)).toEqual(treatment)
    const but = applyProgrammeEdit(treated, { kind: 'voice', stretches: [], visits: [visit('v1')], treatment: UNTREATED })
    expect(of(but)).toBeNull()
    expect(of(applyProgrammeEdit(but, { kind: 'voice', stretches: [], visits: [visit('v1')], treatment: null }))).toEqual(treatment)
    expect(applyProgrammeEdit(treated, { kind: 'voice', stretches: [a.id], visits: [], treatment: null })).toEqual(talk)
  })

  it('is so for both of two pages that treat different recordings', () => {
    const other = asId<'stretch'>('b')
    const mine = applyProgrammeEdit(talk, { kind: 'voice', stretches: [a.id], visits: [], treatment })
    const theirs = applyProgrammeEdit(talk, { kind: 'voice', stretches: [other], visits: [], treatment })
    expect(Object.keys(merged(talk, mine, theirs).voices?.stretches ?? {}).sort()).toEqual(['a', 'b'])
    expect(merged(mine, talk, mine)).toEqual(talk)
  })
})

describe('music under a talk that is held', () => {
  it('lasts to the end of the talk, however long that becomes', () => {
    const held = { ...talk, pieces: [...talk.pieces, still('end', one.id, 5000)] }
    expect(placedBeds({ ...held, beds: [under('v1', 0, null)] })).toMatchObject([{ from: 0, to: 17_000 }])
  })
})

describe('what is seen behind the presenter', () => {
  const pine = { kind: 'plain', colour: '#24413B', finder: 'outline' } as const
  const said = applyProgrammeEdit(talk, { kind: 'backdrop', stretches: [a.id], visits: [], backdrop: pine })
  const filmed = applyProgrammeEdit(said, { kind: 'backdrop', stretches: [], visits: [visit('v2')], backdrop: { kind: 'filmed' } })

  it('is of a recording, and otherwise of some visits, and leaves no trace when it is taken away', () => {
    expect(['v1', 'v2', 'v3'].map((name) => backdropIn(filmed, visit(name), a.id))).toEqual([pine, null, pine])
    const back = applyProgrammeEdit(filmed, { kind: 'backdrop', stretches: [a.id], visits: [visit('v2')], backdrop: null })
    expect(back).toEqual(talk)
  })

  it('stays beside what somebody else changed meanwhile', () => {
    const cut = applyProgrammeEdit(talk, { kind: 'cut', parts: [{ from: 500, to: 900 }] })
    expect(backdropIn(merged(talk, filmed, cut), visit('v2'), a.id)).toBeNull()
    expect(backdropIn(merged(talk, cut, filmed), visit('v3'), a.id)).toEqual(pine)
  })

  it('stays with a visit whose slide is said again', () => {
    const again = hungLike({ ...filmed, pieces: [piece('new', two, 20_000, 23_000)] }, filmed)
    expect(backdropIn(again, visit('new'), a.id)).toEqual(pine)
  })
})
