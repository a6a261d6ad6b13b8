import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { AS_RECORDED, EMPTY_PROGRAMME, asId } from '@core/model'
import type { Programme, VisitId } from '@core/model'
import { indexFilm, sceneAt } from '@core/scene'
import { SLIDES, anyStretches, film, recorded, still } from '@core/testing'
import { applyProgrammeEdit, changedVisits, merged, programmeLength, visitsOf } from '.'
import type { ProgrammeEdit } from '.'

const films = anyStretches.map((stretches) => film(SLIDES, stretches))
const visitIds = (programme: Programme): readonly VisitId[] => visitsOf(programme).map((visit) => visit.id)

/** An edit inside one visit of a programme. */
function editOf(
  programme: Programme,
  which: number,
  kind: number,
  name: string,
): { readonly edit: ProgrammeEdit; readonly visit: VisitId } | null {
  const visits = visitsOf(programme)
  const visit = visits[which % Math.max(1, visits.length)]
  if (visit === undefined || visit.length < 4 || visits.length < 2) return null
  const third = Math.floor(visit.length / 3)
  const edits: readonly ProgrammeEdit[] = [
    { kind: 'cut', parts: [{ from: visit.start + third, to: visit.start + 2 * third }] },
    { kind: 'tempo', visits: [visit.id], rate: { num: 27, den: 25 } },
    { kind: 'hush', visits: [visit.id] },
    { kind: 'repeat', visit: visit.id, before: null, name },
  ]
  const edit = edits[kind % edits.length]
  return edit === undefined ? null : { edit, visit: visit.id }
}

describe('edits of a programme', () => {
  it('change the visit they name, and leave every other as it was and as it shows', () => {
    fc.assert(
      fc.property(films, fc.nat(), fc.nat(), (one, which, kind) => {
        const found = editOf(one.programme, which, kind, 'x')
        if (found === null) return
        const after = applyProgrammeEdit(one.programme, found.edit)
        for (const visit of changedVisits(one.programme, after)) expect([found.visit, asId(`${found.visit}^x`)]).toContain(visit)
        const index = indexFilm(one)
        const now = indexFilm({ ...one, programme: after })
        for (const visit of visitsOf(one.programme)) {
          const there = visitsOf(after).find((other) => other.id === visit.id)
          if (visit.id === found.visit || there === undefined) continue
          const into = Math.floor(visit.length / 2)
          const [before, later] = [sceneAt(index, visit.start + into), sceneAt(now, there.start + into)]
          expect({ ...later, transition: null, stage: null, inset: later?.inset?.at }).toEqual({
            ...before,
            transition: null,
            stage: null,
            inset: before?.inset?.at,
          })
        }
      }),
    )
  })

  it('of different visits come to the same in either order, and merged from two pages', () => {
    fc.assert(
      fc.property(films, fc.nat(), fc.nat(), fc.nat(2), fc.nat(2), ({ programme }, a, b, kindA, kindB) => {
        const [left, right] = [editOf(programme, a, kindA, 'l'), editOf(programme, b, kindB, 'r')]
        if (left === null || right === null || left.visit === right.visit) return
        const [mine, theirs] = [applyProgrammeEdit(programme, left.edit), applyProgrammeEdit(programme, right.edit)]
        const both = merged(programme, mine, theirs)
        expect(both.pieces).toEqual(merged(programme, theirs, mine).pieces)
        // Tempo and voice are named by visit: done one after the other they are the same. Cuts are named by time, which the first moves.
        if (left.edit.kind !== 'cut' && right.edit.kind !== 'cut') expect(both.pieces).toEqual(applyProgrammeEdit(mine, right.edit).pieces)
        expect(programmeLength(both)).toBeCloseTo(programmeLength(mine) + programmeLength(theirs) - programmeLength(programme), 6)
      }),
    )
  })

  it('of the same visit from two pages are refused, unless they come to the same', () => {
    fc.assert(
      fc.property(films, fc.nat(), ({ programme }, which) => {
        const found = editOf(programme, which, 0, 'x')
        if (found === null) return
        const mine = applyProgrammeEdit(programme, found.edit)
        const theirs = applyProgrammeEdit(programme, { kind: 'tempo', visits: [found.visit], rate: { num: 11, den: 10 } })
        expect(() => merged(programme, mine, theirs)).toThrow('changed elsewhere')
        expect(merged(programme, mine, mine).pieces).toEqual(mine.pieces)
      }),
    )
  })

  it('taken back are as if they had never been, and what came later elsewhere stays', () => {
    fc.assert(
      fc.property(films, fc.nat(), fc.nat(), fc.nat(3), fc.nat(2), ({ programme }, a, b, kindA, kindB) => {
        const [left, right] = [editOf(programme, a, kindA, 'l'), editOf(programme, b, kindB, 'r')]
        if (left === null || right === null || left.visit === right.visit) return
        const first = applyProgrammeEdit(programme, left.edit)
        expect(merged(first, programme, first).pieces).toEqual(programme.pieces)
        const both = merged(programme, applyProgrammeEdit(programme, right.edit), first)
        expect(merged(first, programme, both).pieces).toEqual(applyProgrammeEdit(programme, right.edit).pieces)
      }),
    )
  })

  it('move and repeat whole visits', () => {
    const programme: Programme = {
      ...EMPTY_PROGRAMME,
      pieces: [recorded('a', asId('one'), 0, 1000), still('b', asId('two'), 500), recorded('c', asId('one'), 1000, 3000)],
    }
    const [a, b, c] = ['a', 'b', 'c'].map((name) => asId<'visit'>(name)) as [VisitId, VisitId, VisitId]
    expect(visitIds(applyProgrammeEdit(programme, { kind: 'move', visit: c, before: a }))).toEqual([c, a, b])
    expect(visitIds(applyProgrammeEdit(programme, { kind: 'move', visit: a, before: null }))).toEqual([b, c, a])
    expect(visitIds(applyProgrammeEdit(programme, { kind: 'repeat', visit: a, before: c, name: '2' }))).toEqual([a, b, 'a^2', c])
    expect(programmeLength(applyProgrammeEdit(programme, { kind: 'hold', visit: b, length: 2500 }))).toBe(5500)
    expect(programmeLength(applyProgrammeEdit(programme, { kind: 'tempo', visits: [], rate: { num: 5, den: 4 } }))).toBe(800 + 500 + 1600)
    expect(
      programmeLength(
        applyProgrammeEdit(applyProgrammeEdit(programme, { kind: 'tempo', visits: [], rate: { num: 5, den: 4 } }), {
          kind: 'tempo',
          visits: [],
          rate: AS_RECORDED,
        }),
      ),
    ).toBe(3500)
  })

  it('that cannot be done are refused in words', () => {
    const programme: Programme = { ...EMPTY_PROGRAMME, pieces: [recorded('a', asId('one'), 0, 1000), still('b', asId('two'), 500)] }
    const refused = (edit: ProgrammeEdit) => () => applyProgrammeEdit(programme, edit)
    expect(refused({ kind: 'move', visit: asId('gone'), before: null })).toThrow('not there any more')
    expect(refused({ kind: 'reopen', seam: asId('gone') })).toThrow('not there any more')
    expect(refused({ kind: 'hold', visit: asId('a'), length: 900 })).toThrow('was recorded')
    expect(refused({ kind: 'tempo', visits: [], rate: { num: 3, den: 1 } })).toThrow('twice its tempo')
    expect(refused({ kind: 'cut', parts: [] })).toThrow('Nothing was chosen')
  })
})
